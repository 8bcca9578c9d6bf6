<script setup lang="ts">
import type { z } from 'zod'
import { wanted } from '#core/document/issue-words'

/**
 * A number that is checked where it is typed: what cannot be is said there, in words, and nothing is
 * taken.
 */
const props = defineProps<{
  label: string
  modelValue: number
  schema: z.ZodType<number>
  step?: number
  suffix?: string
}>()
const emit = defineEmits<{ take: [value: number] }>()
const typed = ref(String(props.modelValue))
const problem = ref<string>()
watch(
  () => props.modelValue,
  (value) => {
    typed.value = String(value)
    problem.value = undefined
  },
)

function take(): void {
  const text = typed.value.trim().replace(',', '.')
  const read = props.schema.safeParse(text === '' ? undefined : Number(text))
  if (!read.success) {
    problem.value = wanted(read.error.issues[0]!)
    return
  }
  problem.value = undefined
  if (read.data !== props.modelValue) emit('take', read.data)
}
</script>

<template>
  <v-text-field
    v-model="typed"
    class="number-field"
    :label="label"
    :suffix="suffix"
    :step="step"
    :error-messages="problem ? [problem] : []"
    type="number"
    inputmode="decimal"
    @change="take"
    @keydown.enter="take"
  />
</template>
