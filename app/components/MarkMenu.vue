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
/** What is typed right after a mark says what it is about: no key of the page is pressed by it. */
const words = ref('')
const field = ref<{ focus: () => void }>()
let before: HTMLElement | undefined
watch(
  () => marking.marked,
  async (marked) => {
    words.value = ''
    if (!marked) return
    before = document.activeElement instanceof HTMLElement ? document.activeElement : undefined
    await nextTick()
    field.value?.focus()
  },
)
function done(): void {
  marking.say(words.value)
  leave()
}
/** The place stays marked; the keys are the page's again. */
function leave(): void {
  marking.marked = undefined
  before?.focus()
}
function look(): void {
  const { marked } = marking
  marking.say(words.value)
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
    <form
      v-if="marking.marked"
      class="say"
      :aria-label="`Marked: ${marking.marked.words}`"
      data-test="mark-say"
      @submit.prevent="done"
      @keydown.esc.stop.prevent="leave"
    >
      <v-text-field
        ref="field"
        v-model="words"
        :label="marking.marked.key.startsWith('doubt/') ? 'What is the question?' : 'What is it?'"
        maxlength="2000"
        hide-details
        data-test="mark-words"
      />
      <div class="row">
        <ActButton type="submit" data-test="mark-keep">Keep</ActButton>
        <ActButton kind="link" role="status" data-test="marked" @click="look"
          >{{ marking.marked.words }}: open it in Prove</ActButton
        >
      </div>
    </form>
  </span>
</template>

<style scoped>
.mark {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
.say {
  position: fixed;
  top: 52px;
  right: 16px;
  z-index: 20;
  width: min(420px, calc(100vw - 32px));
  display: grid;
  gap: 10px;
  padding: 14px;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 5px;
  box-shadow: 0 6px 24px rgb(0 0 0 / 18%);
  white-space: normal;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
}
</style>
