<script setup lang="ts">
import { useShortcuts } from '~/composables/shortcuts'
import { useMarking } from '~/stores/marking'
import { useSong } from '~/stores/song'

// A place marked on any page, without leaving it: a doubt, something to hear again, a remark, a landmark.
const marking = useMarking()
const store = useSong()
const doubt = (): void => marking.doubt()
const toHear = (): void => marking.spot('to hear')
const remark = (): void => marking.spot('remark')
const landmark = (): void => marking.spot('landmark')
const MARKS = [
  { title: 'A doubt (F2)', value: doubt },
  { title: 'To hear again (F4)', value: toHear },
  { title: 'A remark (Shift F4)', value: remark },
  { title: 'A landmark (Shift F2)', value: landmark },
]
const items = MARKS.map(({ title }) => ({ title, value: title }))
const choose = (title: string): void => MARKS.find((mark) => mark.title === title)?.value()
function look(): void {
  const { marked } = marking
  if (!marked || !store.song) return
  marking.marked = undefined
  void navigateTo(`/song/${store.song.id}/prove?show=${encodeURIComponent(marked.key)}`)
}
useShortcuts([
  { keys: ['F2'], label: 'A doubt here', run: doubt, group: 'Marking' },
  { keys: ['F4'], label: 'To hear again, here', run: toHear, group: 'Marking' },
  { keys: ['Shift+F4'], label: 'A remark here', run: remark, group: 'Marking' },
  { keys: ['Shift+F2'], label: 'A landmark here', run: landmark, group: 'Marking' },
])
</script>

<template>
  <span v-if="!store.readOnly" class="mark">
    <MenuButton label="Mark" :items="items" data-test="mark" @choose="choose" />
    <ActButton v-if="marking.marked" kind="link" role="status" data-test="marked" @click="look">
      {{ marking.marked.words }}: say what
    </ActButton>
  </span>
</template>

<style scoped>
.mark {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
</style>
