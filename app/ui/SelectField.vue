<script setup lang="ts" generic="T extends string | number">
/**
 * One of several: with its label above the frame, or, in a row of words, only named for who cannot see
 * it.
 */
defineProps<{
  label: string
  items: readonly (T | { title: string; value: T })[]
  modelValue: T
  inline?: boolean
  /** A word or number before the frame. */
  lead?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [value: T] }>()
const titleOf = (item: T | { title: string; value: T }): string =>
  typeof item === 'object' ? item.title : String(item)
const valueOf = (item: T | { title: string; value: T }): T => (typeof item === 'object' ? item.value : item)
</script>

<template>
  <v-select
    class="select-field"
    :class="{ inline }"
    :label="inline ? undefined : label"
    :aria-label="inline ? label : undefined"
    :items="items.map((item) => ({ title: titleOf(item), value: valueOf(item) }))"
    :model-value="modelValue"
    :menu-props="{ contentClass: 'select-menu' }"
    @update:model-value="(value: T) => emit('update:modelValue', value)"
  >
    <template v-if="lead" #prepend>{{ lead }}</template>
  </v-select>
</template>
