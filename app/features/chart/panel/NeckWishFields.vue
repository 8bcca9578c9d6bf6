<script setup lang="ts">
import { z } from 'zod'
import type { NeckWish, Part } from '#core/document/schema'
import { useSong } from '~/stores/song'

// Where on the neck a line is wanted: on chosen strings, from a fret up, with nothing open.
const props = defineProps<{ part: Part }>()
const wish = defineModel<NeckWish>({ required: true })
const store = useSong()
const strings = computed(() => props.part.tuning.openMidi.map((_, index) => index + 1))
const chosen = (string: number): boolean => wish.value.strings?.includes(string) ?? false
const fretSchema = computed(() => z.int().min(0).max(props.part.instrument.fretCount))

function set(change: Partial<{ [Key in keyof NeckWish]: NeckWish[Key] | undefined }>): void {
  const next = Object.entries({ ...wish.value, ...change }).filter(([, value]) => value !== undefined)
  wish.value = Object.fromEntries(next) as NeckWish
}
function toggle(string: number): void {
  const kept = strings.value.filter((other) => (other === string ? !chosen(other) : chosen(other)))
  set({ strings: kept.length ? kept : undefined })
}
</script>

<template>
  <div class="wish" role="group" aria-label="Where on the neck" data-test="neck-wish">
    <span class="quiet">on</span>
    <ActButton
      v-for="string in strings"
      :key="string"
      class="small string"
      :aria-pressed="chosen(string)"
      :aria-label="`on string ${string}`"
      @click="toggle(string)"
    >
      {{ store.stringLabel(part, string) }}
    </ActButton>
    <span class="quiet">{{ wish.strings ? 'only' : 'all strings' }}</span>
    <NumberField
      class="from"
      label="From fret"
      :schema="fretSchema"
      :model-value="wish.fromFret ?? 0"
      data-test="wish-from"
      @take="set({ fromFret: $event || undefined })"
    />
    <CheckField
      label="nothing open"
      :model-value="wish.noOpen ?? false"
      data-test="wish-no-open"
      @update:model-value="set({ noOpen: $event || undefined })"
    />
  </div>
</template>

<style scoped>
.wish {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  margin: 5px 0;
  font-size: 13.5px;
}
.string.v-btn {
  min-width: 28px;
  padding: 0 4px;
}
.string.v-btn[aria-pressed='true'] {
  background: var(--selection);
  font-weight: 700;
}
.from {
  max-width: 92px;
}
</style>
