<script setup lang="ts">
import type { Content, Figure, Note } from '#core/document/schema'
import { usePreferences } from '~/stores/preferences'
import type { Beside } from './beside'
import type { Bench } from './benchKeys'

// Beside the bench: what is known of what stands there, page by page.
const props = defineProps<{
  bench: Bench
  figure: Figure
  chords: readonly { startTicks: number; lengthTicks: number; symbol: string }[]
}>()
const emit = defineEmits<{
  choose: [figureId: string]
  remove: []
  leave: []
  draft: [notes: Note[]]
  hear: [content: Content]
  marks: [ids: string[]]
  beside: [what: Beside | undefined]
  say: [words: string, startTicks: number]
}>()
const preferences = usePreferences()
const PAGES = [
  { value: 'grip', title: 'Grip' },
  { value: 'line', title: 'Line' },
  { value: 'hand', title: 'Hand' },
  { value: 'neck', title: 'Neck' },
  { value: 'second', title: 'Second line' },
  { value: 'compare', title: 'Compare' },
  { value: 'say', title: 'Say' },
] as const
type Page = (typeof PAGES)[number]['value']
const { content } = props.bench
const page = ref<Page>(content.value.notes.length && !content.value.grips.length ? 'line' : 'grip')
watch(page, () => {
  emit('draft', [])
  emit('beside', undefined)
  emit('marks', [])
})
const gripPanel = ref<{ focus: () => void }>()
defineExpose({
  turn: (by: number) => {
    const at = PAGES.findIndex((entry) => entry.value === page.value)
    page.value = PAGES[(at + by + PAGES.length) % PAGES.length]!.value
  },
  writeGrip: () => {
    page.value = 'grip'
    void nextTick(() => gripPanel.value?.focus())
  },
})
</script>

<template>
  <aside class="knows" aria-label="What is known here">
    <v-tabs
      v-model="page"
      class="pages"
      density="compact"
      :show-arrows="false"
      hide-slider
      aria-label="Pages of what is known"
    >
      <v-tab
        v-for="entry in PAGES"
        :key="entry.value"
        :value="entry.value"
        :ripple="false"
        aria-controls="known"
        :data-test="`tab-${entry.value}`"
      >
        {{ entry.title }}
      </v-tab>
    </v-tabs>
    <div id="known" role="tabpanel" :aria-label="PAGES.find((entry) => entry.value === page)?.title">
      <GripFacts
        v-if="page === 'grip'"
        ref="gripPanel"
        :bench="bench"
        :figure="figure"
        :chords="chords"
        @leave="emit('leave')"
      />
      <template v-else-if="page === 'line'"
        ><LineFacts
          :bench="bench"
          :figure="figure"
          :chords="chords"
          @draft="emit('draft', $event)"
          @hear="emit('hear', $event)"
        />
        <OverdubFacts :bench="bench" :figure="figure" @choose="emit('choose', $event)" />
        <FromRecord :bench="bench" :figure="figure" class="from-record" @draft="emit('draft', $event)" />
      </template>
      <HandFacts v-else-if="page === 'hand'" :bench="bench" :figure="figure" />
      <NeckFacts v-else-if="page === 'neck'" :bench="bench" :figure="figure" :chords="chords" />
      <SecondLine
        v-else-if="page === 'second'"
        :bench="bench"
        :figure="figure"
        @choose="emit('choose', $event)"
        @draft="emit('draft', $event)"
        @hear="emit('hear', $event)"
        @beside="emit('beside', $event)"
      />
      <CompareFacts
        v-else-if="page === 'compare'"
        :bench="bench"
        :figure="figure"
        @choose="emit('choose', $event)"
        @marks="emit('marks', $event)"
        @beside="emit('beside', $event)"
      />
      <SayFacts
        v-else
        :bench="bench"
        :figure="figure"
        @say="(words, startTicks) => emit('say', words, startTicks)"
      />
    </div>
    <p v-if="figure.note" class="other note">{{ figure.note }}</p>
    <p class="other foot">
      <span class="quiet">
        {{ preferences.values.naming === 'shape' ? 'Names by shape' : 'Names as sounding' }}
      </span>
      <ActButton class="small" @click="emit('remove')">Remove this figure</ActButton>
    </p>
  </aside>
</template>

<style scoped>
.knows {
  border-left: 1px solid var(--rule);
  padding-left: 14px;
  display: grid;
  gap: 10px;
  align-content: start;
  font-size: 14.5px;
  min-width: 0;
}
.pages {
  border-bottom: 1px solid var(--rule);
  height: auto;
}
.pages :deep(.v-slide-group__container) {
  overflow: visible;
  contain: none;
}
.pages :deep(.v-slide-group__content) {
  flex: 1 1 100%;
  flex-wrap: wrap;
  gap: 0 12px;
}
.pages :deep(.v-tab) {
  min-width: 0;
  height: 30px;
  padding: 0;
  font: 600 14px var(--face-text);
  color: var(--quiet);
}
.pages :deep(.v-tab--selected) {
  color: var(--ink);
  box-shadow: inset 0 -2.5px var(--action);
}
.note {
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
.knows .other.foot {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
.knows :deep(.panel) {
  display: grid;
  gap: 12px;
}
.knows :deep(.other) {
  font-size: 13.5px;
  margin: 3px 0 0;
  padding: 0;
  list-style: none;
  display: block;
}
.knows :deep(.row) {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
}
.knows :deep(.fields) {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(98px, 1fr));
  gap: 5px;
}
.knows :deep(.small-head + *) {
  margin-top: 5px;
}
.knows :deep(.follow) {
  margin: 10px 0 6px;
}
.knows :deep(.grow) {
  flex: 1;
}
@media (max-width: 1000px) {
  .knows {
    border-left: 0;
    border-top: 1px solid var(--rule);
    padding: 10px 0 0;
  }
  .knows :deep(.panel) {
    grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
  }
}
</style>
