<script setup lang="ts" generic="T extends string | number">
/** One of a few, all of them in sight. */
defineProps<{
  label: string
  items: readonly { title: string; value: T; test?: string; hint?: string }[]
  modelValue: T | undefined
}>()
const emit = defineEmits<{ 'update:modelValue': [value: T] }>()
</script>

<template>
  <div class="toggle-row" role="group" :aria-label="label">
    <ActButton
      v-for="item in items"
      :key="item.value"
      :aria-pressed="item.value === modelValue"
      :data-test="item.test"
      :title="item.hint"
      @click="emit('update:modelValue', item.value)"
    >
      {{ item.title }}
    </ActButton>
  </div>
</template>
