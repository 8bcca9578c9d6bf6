<script setup lang="ts">
/** A name that is taken when it is left: never empty, never longer than what is kept. */
const props = defineProps<{ label: string; modelValue: string; longest: number; mayBeEmpty?: boolean }>()
const emit = defineEmits<{ take: [value: string] }>()
const typed = ref(props.modelValue)
watch(
  () => props.modelValue,
  (value) => {
    typed.value = value
  },
)

function take(): void {
  const text = typed.value.trim()
  if (!text && !props.mayBeEmpty) typed.value = props.modelValue
  else if (text !== props.modelValue) emit('take', text)
}
</script>

<template>
  <v-text-field v-model="typed" :label="label" :maxlength="longest" @change="take" @keydown.enter="take" />
</template>
