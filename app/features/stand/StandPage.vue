<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { useTheme } from 'vuetify'
import type { UnrolledBar } from '#core/compare/unrolled-part'
import { useEachFrame } from '~/composables/eachFrame'
import { useShortcuts } from '~/composables/shortcuts'
import { usePreferences } from '~/stores/preferences'
import { useAwake } from './awake'
import { shapeOf } from './standShape'
import { useStand } from './useStand'

// One part through the whole song, to be read from two metres: what is played now, the next bars under it.
const route = useRoute()
const preferences = usePreferences()
const partId = computed(() => String(route.query.part ?? store.parts[0]?.id ?? ''))
const stand = useStand(() => partId.value)
const { store, transport, bars, folded, index, now, next, nextSection } = stand
useAwake()
const isFolded = ref(false)
const frame = ref<HTMLElement>()
const { width, height } = useElementSize(frame)
const playhead = ref<HTMLElement>()
/** Figures 12 mm high on a small screen, or as the room allows. */
const size = computed(() => Math.max(44, Math.min(110, (height.value - 262) / 6.2, width.value / 14)))
const small = computed(() => size.value * 0.31)
const part = computed(() => store.parts.find(({ id }) => id === partId.value))
const theme = useTheme()
/** The stand has a look of its own: dark on a stage, whatever the rest is. */
const isDark = computed(() =>
  preferences.values.standLook === 'as all'
    ? theme.current.value.dark
    : preferences.values.standLook === 'dark',
)

const count = ref<HTMLElement>()
function tellBeat(at: number): void {
  const beats = now.value?.meter.beats ?? 4
  const text = `${Math.min(beats, Math.floor(at * beats) + 1)} of ${beats}`
  if (count.value && count.value.textContent !== text) count.value.textContent = text
}
let shown = -1
useEachFrame(() => {
  if (transport.playing) stand.follow()
  const element = playhead.value
  if (!element) return
  const at = Math.max(0, Math.min(1, stand.share()))
  const x = size.value * 0.7 + at * (width.value - 0.98 * size.value)
  tellBeat(at)
  if (x !== shown) element.style.transform = `translateX(${x}px)`
  shown = x
})
onMounted(() => stand.follow())
watch(bars, () => stand.follow())

const leave = (): void => void navigateTo(`/song/${store.song?.id}/teach`)
function away(): void {
  if (isFolded.value) isFolded.value = false
  else leave()
}
const toggleTheme = (): void => preferences.set('standLook', isDark.value ? 'light' : 'dark')
useShortcuts([
  { keys: ['ArrowRight', 'ArrowDown', 'PageDown'], label: 'Turn to the next bar', run: () => stand.turn(1) },
  { keys: ['ArrowLeft', 'ArrowUp', 'PageUp'], label: 'Turn back a bar', run: () => stand.turn(-1) },
  { keys: ['Enter'], label: 'Turn to the next bar', run: () => stand.turn(1) },
  { keys: ['Backspace'], label: 'Turn back a bar', run: () => stand.turn(-1) },
  { keys: ['Space'], label: 'Play, or stop', run: () => transport.toggle() },
  { keys: ['f'], label: 'Folded, or bar by bar', run: () => (isFolded.value = !isFolded.value) },
  { keys: ['d'], label: 'Light or dark', run: toggleTheme },
  { keys: ['Escape'], label: 'Unfold it; leave the stand', run: away },
])
const grip = computed(() => {
  const held = now.value && shapeOf(now.value, 'last')
  const bar = next.value.find((one) => (shapeOf(one, 'first') ?? held) !== held)
  return bar && shapeOf(bar, 'first')
})
const label = (bar: UnrolledBar): string =>
  `${bar.sectionName}, bar ${bar.barInSection}: ${bar.idle || `${bar.notes.length} notes`}`
const progress = computed(() => (bars.value.length ? (index.value + 1) / bars.value.length : 0))
const ahead = computed(() => {
  const last = now.value?.chords.at(-1)?.symbol
  const bar = next.value.find(({ chords }) => chords.some(({ symbol }) => symbol !== last))
  return bar?.chords.find(({ symbol }) => symbol !== last)?.symbol
})
</script>

<template>
  <div ref="frame" class="stand" :class="isDark ? 'v-theme--dark' : 'v-theme--light'" data-test="stand">
    <header class="top">
      <h1>{{ now?.sectionName ?? store.song?.title }}</h1>
      <span v-if="now" class="quiet" data-test="stand-place">
        bar {{ now.barInSection }} of {{ now.barsInSection }}
      </span>
      <StandLandmark v-if="now" :section-id="now.sectionId" :bar="now.barInSection" :part-id="partId" />
      <span class="grow" />
      <b ref="count" class="count mono" aria-hidden="true" />
      <span class="quiet">{{ part?.name }}</span>
      <ActButton data-test="stand-play" @click="transport.toggle()">{{
        transport.playing ? 'Stop' : 'Play'
      }}</ActButton>
      <ActButton data-test="stand-fold" :aria-pressed="isFolded" @click="isFolded = !isFolded"
        >folded</ActButton
      >
      <ActButton :aria-pressed="isDark" @click="toggleTheme">dark</ActButton>
      <ActButton data-test="leave-stand" @click="leave">Leave</ActButton>
    </header>
    <StandFolded v-if="isFolded" :lines="folded" :section-id="now?.sectionId" :size="size" />
    <template v-else-if="now && width">
      <div class="now">
        <StandBarDrawing
          :bar="now"
          :width="width"
          :gap="size * 0.78"
          :size="size"
          :label="label(now)"
          :show-symbol="store.chordWords"
        />
        <div ref="playhead" class="playhead" :style="{ top: `${size}px`, bottom: `${size * 0.6}px` }" />
      </div>
      <div class="next">
        <StandBarDrawing
          v-for="bar in next"
          :key="bar.startTicks"
          :bar="bar"
          :width="width / 3 - 4"
          :gap="small * 0.9"
          :size="small"
          :label="label(bar)"
          :show-symbol="store.chordWords"
        />
      </div>
      <footer class="then">
        <p v-if="ahead">
          <span class="quiet">next chord</span> <b>{{ store.chordWords(ahead) }}</b>
          <NextShape v-if="grip" :shape="grip" :strings="now.strings" />
        </p>
        <p v-if="nextSection" class="after">
          <span class="quiet">then</span> <b>{{ nextSection.name }}</b> {{ nextSection.words }}
        </p>
      </footer>
    </template>
    <p v-else class="quiet">There are no bars yet: lay the recording out in Listen first.</p>
    <div class="progress" role="img" :aria-label="`bar ${index + 1} of ${bars.length}`">
      <div :style="{ transform: `scaleX(${progress})` }" />
    </div>
  </div>
</template>

<style scoped>
.stand {
  position: fixed;
  inset: 0;
  z-index: 1500;
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 14px 32px 18px;
  background: var(--page);
  color: var(--ink);
  overflow: hidden;
}
.top {
  display: flex;
  align-items: baseline;
  gap: 16px;
  font-size: 19px;
}
.top h1 {
  font-size: 34px;
}
.grow {
  flex: 1;
}
.count {
  font-size: 34px;
}
.now {
  position: relative;
}
.playhead {
  position: absolute;
  left: 0;
  width: 4px;
  background: var(--action);
  will-change: transform;
}
.next {
  display: flex;
  gap: 6px;
}
.then {
  display: flex;
  justify-content: space-between;
  gap: 24px;
  font-size: 24px;
}
.then b {
  font-size: 30px;
}
.then p:first-child {
  display: flex;
  align-items: flex-start;
  gap: 14px;
}
.after {
  text-align: right;
}
.progress {
  margin-top: auto;
  height: 12px;
  background: var(--rule);
}
.progress div {
  height: 100%;
  background: var(--action);
  transform-origin: left;
}
@media (max-width: 600px) {
  .stand {
    padding: 10px 14px 14px;
  }
  .top {
    flex-wrap: wrap;
    gap: 6px 10px;
    font-size: 16px;
  }
  .top h1,
  .count {
    font-size: 24px;
  }
}
</style>
