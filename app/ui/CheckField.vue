<script setup lang="ts">
/** Yes or no, with its words beside the box. */
defineProps<{ label: string; modelValue: boolean; disabled?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [value: boolean] }>()
</script>

<template>
  <v-checkbox
    class="check-field"
    density="compact"
    hide-details
    :label="label"
    :disabled="disabled"
    :model-value="modelValue"
    @update:model-value="(value: boolean | null) => emit('update:modelValue', Boolean(value))"
  />
</template>
