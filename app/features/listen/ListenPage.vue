<script setup lang="ts">
import { sectionSchema } from '#core/document/schema'
import { labelSymbol } from '#core/listen/decode/chord-labels'
import {
  layoutListenLines,
  listenPlace,
  listenPoint,
  type BarBox,
  type ListenLine as Line,
} from '#core/engrave/listen-lines'
import { clock, medianTempo } from '#core/time/beat-grid'
import { allBars } from '#core/document/form'
import { meterName, USUAL_METERS } from '#core/time/meter'
import { SECTION_KINDS, type SectionKind } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useOutline } from '~/composables/outline'
import { useBeatWork } from '~/features/listen/beatWork'
import { useElementWidth } from '~/composables/elementWidth'
import { useShortcuts } from '~/composables/shortcuts'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

const store = useSong()
const transport = useTransport()
const outline = useOutline()
const beats = useBeatWork()
const sheet = ref<HTMLElement>()
const width = useElementWidth(sheet)
const playhead = ref<HTMLElement>()
const hearing = useHearing()
const layout = computed(() =>
  hearing.view && width.value > 300
    ? layoutListenLines(hearing.view, width.value, { accepted: store.song, analysis: hearing.analysis })
    : undefined,
)
/** True once the bars are the document's own and not only heard. */
const laidOut = computed(() => Boolean(store.source?.grid))
/** The beat that keys act on. */
const chosenBeat = ref<number>()
const hovered = ref<{ barIndex: number; seconds: number }>()
const editing = ref<string>()

const tempo = computed(() =>
  store.song && store.source?.grid ? medianTempo(allBars(store.song), store.source.grid) : undefined,
)
const facts = computed(() =>
  tempo.value
    ? `♩ = ${tempo.value.toFixed(1)}, drifts with the band · ${meterName(store.song!.meter)} · ${store.song!.feel.swing.ratio === 0.5 ? 'straight' : `swung ${Math.round(store.song!.feel.swing.ratio * 100)} %`}`
    : '',
)
const sums = computed(() => {
  const grid = store.source?.grid
  const total = store.source?.durationSeconds ?? 0
  if (!grid) return ''
  const first = grid.bars[0]?.beatSeconds[0] ?? 0
  return `${allBars(store.song!).length} bars, ${clock(first, 1)} to ${clock(grid.endSeconds, 1)} · ${first.toFixed(1)} s before and ${Math.max(0, total - grid.endSeconds).toFixed(1)} s after them · recording ${clock(total, 1)}: nothing missing`
})

// Pointer: click seeks, drag loops, a beat tick can be dragged.
const drag = ref<{
  kind: 'loop' | 'beat'
  startX: number
  startSeconds: number
  nowSeconds: number
  beatIndex?: number
  moved: boolean
}>()
const pointAt = (event: PointerEvent | MouseEvent) => {
  const box = sheet.value!.getBoundingClientRect()
  return { x: event.clientX - box.left, y: event.clientY - box.top }
}
const under = (event: PointerEvent | MouseEvent) => {
  const { x, y } = pointAt(event)
  return layout.value && listenPlace(layout.value, x, y)
}
/** The bar the panel tells about, by its index in what is drawn. */
const chosenBar = ref<number>()
const barBox = computed(() => {
  for (const ruled of layout.value?.lines ?? [])
    for (const bar of ruled.bars)
      if (bar.barIndex === chosenBar.value)
        return {
          barIndex: bar.barIndex,
          startSeconds: bar.startSeconds,
          endSeconds: bar.endSeconds,
          sectionId: ruled.sectionId,
        }
  return undefined
})
const beatTimes = computed(() =>
  laidOut.value ? beats.flat.value.map((beat) => beat.seconds) : (hearing.analysis?.beats ?? []),
)
const nearestTime = (seconds: number): number | undefined =>
  beatTimes.value.reduce<number | undefined>(
    (best, time) => (best === undefined || Math.abs(time - seconds) < Math.abs(best - seconds) ? time : best),
    undefined,
  )
const beatIndexOf = (seconds: number): number =>
  beats.flat.value.findIndex((beat) => Math.abs(beat.seconds - seconds) < 1e-6)

function pointerDown(event: PointerEvent): void {
  if (event.button !== 0) return
  const hit = under(event)
  if (!hit) return
  const { x, y } = pointAt(event)
  const onTick =
    laidOut.value && store.onMainSource && y - hit.line.top > 44
      ? hit.bar.beatXs.findIndex((beatX) => Math.abs(beatX - x) < 6)
      : -1
  const start = { startX: x, startSeconds: hit.seconds, nowSeconds: hit.seconds, moved: false }
  if (onTick >= 0) {
    const seconds = hit.bar.beatSeconds[onTick]!
    chosenBeat.value = beatIndexOf(seconds)
    drag.value = {
      kind: 'beat',
      ...start,
      startSeconds: seconds,
      nowSeconds: seconds,
      beatIndex: chosenBeat.value,
    }
  } else drag.value = { kind: 'loop', ...start }
  sheet.value!.setPointerCapture(event.pointerId)
}
function pointerMove(event: PointerEvent): void {
  const hit = under(event)
  hovered.value = hit ? { barIndex: hit.bar.barIndex, seconds: hit.seconds } : undefined
  if (!drag.value || !hit) return
  const { x } = pointAt(event)
  if (Math.abs(x - drag.value.startX) > 5) drag.value.moved = true
  drag.value.nowSeconds = hit.seconds
}
function pointerUp(): void {
  const done = drag.value
  drag.value = undefined
  if (!done) return
  if (done.kind === 'beat') {
    if (done.moved && done.beatIndex !== undefined) beats.moveTo(done.beatIndex, done.nowSeconds)
    else transport.seek(done.startSeconds)
    return
  }
  if (!done.moved) {
    transport.seek(done.startSeconds)
    chosenBar.value = layout.value && listenPoint(layout.value, done.startSeconds)?.bar.barIndex
    chosenBeat.value = beats.flat.value.length ? beats.nearest(done.startSeconds) : undefined
    return
  }
  const from = nearestTime(Math.min(done.startSeconds, done.nowSeconds))
  const to = nearestTime(Math.max(done.startSeconds, done.nowSeconds))
  if (from !== undefined && to !== undefined && to > from) {
    transport.setLoop({ startSeconds: from, endSeconds: to })
    if (!transport.playing) transport.seek(from)
  }
}

const chosenSeconds = (): number =>
  (chosenBeat.value !== undefined ? beats.flat.value[chosenBeat.value]?.seconds : undefined) ??
  transport.position()
const barNow = (): number | undefined =>
  layout.value
    ? (hovered.value?.barIndex ?? listenPoint(layout.value, transport.position())?.bar.barIndex)
    : undefined

/** Corrections act on the document: heard bars are accepted first. */
const withBars = (act: () => void): void => {
  if (!store.onMainSource)
    store.notice = {
      text: 'You are listening to another recording: switch back (O) to correct bars and beats.',
      kind: 'refusal',
    }
  else if (laidOut.value || hearing.accept(['bars'])) act()
}
function markSection(): void {
  if (!laidOut.value && !hearing.accept(['bars'])) return
  const barIndex = barNow()
  if (barIndex === undefined) return
  const place = store.places.findLast((entry) => entry.firstBar <= barIndex)!
  const id = randomId()
  if (
    store.run('splitSection', {
      sectionId: place.section.id,
      atBar: barIndex - place.firstBar,
      newId: id,
      name: `Section ${store.sections.length + 1}`,
      kind: 'other',
    })
  )
    editing.value = id
}
const sectionNow = (): string | undefined => {
  const barIndex = barNow()
  return barIndex === undefined
    ? undefined
    : store.places.findLast((entry) => entry.firstBar <= barIndex)?.section.id
}
const withSection = (act: (id: string) => void): void => {
  const id = sectionNow()
  if (id) act(id)
}
function chooseBarAt(seconds: number): void {
  chosenBar.value = layout.value && listenPoint(layout.value, seconds + 0.001)?.bar.barIndex
}
function stepBeat(by: number): void {
  if (beats.flat.value.length === 0) return
  const index = Math.max(
    0,
    Math.min(beats.flat.value.length - 1, (chosenBeat.value ?? beats.nearest(transport.position())) + by),
  )
  chosenBeat.value = index
  transport.seek(beats.flat.value[index]!.seconds)
  chooseBarAt(beats.flat.value[index]!.seconds)
}
function stepBar(by: number): void {
  const point = layout.value && listenPoint(layout.value, transport.position() + 0.001)
  const starts =
    store.source?.grid?.bars.map((bar) => bar.beatSeconds[0]!) ?? hearing.analysis?.downbeats ?? []
  const next = starts[Math.max(0, Math.min(starts.length - 1, (point?.bar.barIndex ?? 0) + by))]
  if (next !== undefined) {
    transport.seek(next)
    chooseBarAt(next)
    if (laidOut.value) chosenBeat.value = beats.nearest(next)
  }
}
function nudge(bySeconds: number): void {
  if (!store.onMainSource || !laidOut.value) {
    withBars(() => undefined)
    return
  }
  const index = chosenBeat.value ?? beats.nearest(transport.position())
  if (beats.nudge(index, bySeconds)) chosenBeat.value = index
}
/** Takes the section of the chosen bar, or the one under the pointer, with its chords. */
function acceptLine(): void {
  const start = barBox.value?.startSeconds ?? hovered.value?.seconds
  const sections = hearing.analysis?.sections ?? []
  const heard =
    start === undefined
      ? undefined
      : (sections.find((section) => start >= section.start - 0.1 && start < section.end - 0.1) ?? sections[0])
  if (!heard) return
  hearing.accept(['sections', 'chords'], { startSeconds: heard.start, endSeconds: heard.end })
}
/** Sounds the n-th chord heard in the chosen bar's first stretch against the record. */
function hearRival(rank: number): void {
  const bar = barBox.value
  const chord = bar && hearing.analysis?.chords?.find((entry) => entry.end > bar.startSeconds + 0.06)
  const rival = chord?.rivals[rank]
  if (bar && chord && rival && rival.label !== 'N')
    transport.hearCandidate(
      labelSymbol(rival.label),
      Math.max(chord.start, bar.startSeconds),
      Math.min(chord.end, bar.endSeconds),
    )
}
useShortcuts([
  { keys: ['a'], label: 'Accept everything that was heard', run: () => hearing.acceptAll(), group: 'Heard' },
  { keys: ['j'], label: 'Accept the section of this bar, with its chords', run: acceptLine, group: 'Heard' },
  { keys: ['c'], label: 'Accept all chords', run: () => hearing.accept(['chords']), group: 'Heard' },
  {
    keys: ['q'],
    label: 'Hear the likeliest chord of this bar against the record',
    run: () => hearRival(0),
    group: 'Heard',
  },
  { keys: ['w'], label: 'Hear its first rival', run: () => hearRival(1), group: 'Heard' },
  { keys: ['r'], label: 'Hear its second rival', run: () => hearRival(2), group: 'Heard' },
  { keys: ['g'], label: 'Hear again around what is set', run: () => void beats.hearAgain(), group: 'Heard' },
  {
    keys: ['s'],
    label: 'A section starts here (bar under the pointer or the playhead)',
    run: markSection,
    group: 'Form',
  },
  {
    keys: ['e'],
    label: 'Name, type, return of this section',
    run: () =>
      withSection((id) => {
        editing.value = id
      }),
    group: 'Form',
  },
  {
    keys: ['Backspace'],
    label: 'Merge this section into the one before',
    run: () => withSection((id) => store.run('mergeSection', { sectionId: id })),
    group: 'Form',
  },
  {
    keys: ['<', ','],
    label: 'Start this section one bar earlier',
    run: () => withSection((id) => store.run('moveSectionStart', { sectionId: id, byBars: -1 })),
    group: 'Form',
  },
  {
    keys: ['>', '.'],
    label: 'Start this section one bar later',
    run: () => withSection((id) => store.run('moveSectionStart', { sectionId: id, byBars: 1 })),
    group: 'Form',
  },
  { keys: ['ArrowLeft'], label: 'Beat before', run: () => stepBeat(-1), group: 'Moving' },
  { keys: ['ArrowRight'], label: 'Next beat', run: () => stepBeat(1), group: 'Moving' },
  { keys: ['Shift+ArrowLeft'], label: 'Bar before', run: () => stepBar(-1), group: 'Moving' },
  { keys: ['Shift+ArrowRight'], label: 'Next bar', run: () => stepBar(1), group: 'Moving' },
  {
    keys: ['1'],
    label: 'This beat is the one',
    run: () => withBars(() => void beats.theOne(chosenSeconds(), false)),
    group: 'Beats',
  },
  {
    keys: ['!', '2'],
    label: 'This beat is the one, from here on only',
    run: () => withBars(() => void beats.theOne(chosenSeconds(), true)),
    group: 'Beats',
  },
  {
    keys: ['t'],
    label: 'Tap along while playing; Enter keeps the taps',
    run: () => beats.tap(),
    group: 'Beats',
  },
  { keys: ['Enter'], label: 'Keep the taps', run: () => beats.keepTaps(), group: 'Beats' },
  { keys: ['['], label: 'This beat 10 ms earlier', run: () => nudge(-0.01), group: 'Beats' },
  { keys: [']'], label: 'This beat 10 ms later', run: () => nudge(0.01), group: 'Beats' },
  {
    keys: ['i'],
    label: 'Insert a beat at the playhead',
    run: () => withBars(() => beats.insert(transport.position())),
    group: 'Beats',
  },
  {
    keys: ['Delete'],
    label: 'Remove this beat',
    run: () => withBars(() => beats.remove(chosenSeconds())),
    group: 'Beats',
  },
  { keys: ['h'], label: 'Halve the pulse', run: () => withBars(() => beats.halve()), group: 'Beats' },
  { keys: ['d'], label: 'Double the pulse', run: () => withBars(() => beats.double()), group: 'Beats' },
  {
    keys: ['f'],
    label: 'The looped span is free time',
    run: () => {
      if (transport.loop) withBars(() => beats.free(transport.loop!.startSeconds, transport.loop!.endSeconds))
    },
    group: 'Beats',
  },
])

// The playhead is moved by hand, not by the framework: sixty times a second only one transform changes.
let frame = 0
let shownLine = -1
function follow(): void {
  frame = requestAnimationFrame(follow)
  const element = playhead.value
  if (!element || !layout.value) return
  const point = listenPoint(layout.value, transport.position())
  element.style.opacity = point ? '1' : '0'
  if (!point) return
  element.style.transform = `translate(${point.x}px, ${point.top}px)`
  if (transport.playing && point.top !== shownLine) {
    shownLine = point.top
    element.scrollIntoView({ block: 'nearest' })
  }
}
onMounted(() => {
  transport.setScope(transport.scope.kind === 'figure' ? { kind: 'song' } : transport.scope)
  follow()
})
// An unknown recording is listened to as soon as it is there; one that is laid out only when asked.
watch(
  () => transport.recordingState,
  async (state) => {
    if ((await hearing.recall()) || state !== 'ready' || store.readOnly || laidOut.value) return
    await hearing.listen()
  },
  { immediate: true },
)
onBeforeUnmount(() => cancelAnimationFrame(frame))

const loopBoxes = computed(() => {
  const span =
    drag.value?.kind === 'loop' && drag.value.moved
      ? {
          startSeconds: Math.min(drag.value.startSeconds, drag.value.nowSeconds),
          endSeconds: Math.max(drag.value.startSeconds, drag.value.nowSeconds),
        }
      : transport.loop
  if (!span || !layout.value) return []
  return layout.value.lines.flatMap((line) =>
    line.bars
      .filter((bar) => bar.endSeconds > span.startSeconds + 1e-4 && bar.startSeconds < span.endSeconds - 1e-4)
      .map((bar) => {
        const share = (seconds: number): number =>
          Math.max(0, Math.min(1, (seconds - bar.startSeconds) / (bar.endSeconds - bar.startSeconds)))
        return {
          left: bar.x + bar.width * share(span.startSeconds),
          width: bar.width * (share(span.endSeconds) - share(span.startSeconds)),
          top: line.top,
        }
      }),
  )
})
const beatMark = computed(() => {
  const seconds =
    drag.value?.kind === 'beat' && drag.value.moved
      ? drag.value.nowSeconds
      : chosenBeat.value !== undefined
        ? beats.flat.value[chosenBeat.value]?.seconds
        : undefined
  return seconds !== undefined && layout.value ? listenPoint(layout.value, seconds + 1e-6) : undefined
})
const chosenBox = computed(() => {
  for (const ruled of layout.value?.lines ?? [])
    for (const bar of ruled.bars)
      if (bar.barIndex === chosenBar.value) return { x: bar.x, top: ruled.top, width: bar.width }
  return undefined
})
const edited = computed(() =>
  editing.value ? store.places.find((place) => place.section.id === editing.value) : undefined,
)
const earlier = computed(() =>
  edited.value
    ? store.sections.slice(
        0,
        store.sections.findIndex((section) => section.id === editing.value),
      )
    : [],
)
function renameTo(name: string): void {
  if (edited.value && name.trim())
    store.run('changeSection', {
      sectionId: edited.value.section.id,
      set: { name: name.trim().slice(0, 80) },
    })
}
function kindTo(kind: SectionKind): void {
  const section = edited.value?.section
  if (!section) return
  const count = store.sections.filter((other) => other.kind === kind && other.id !== section.id).length
  const named = /^(Section \d+|Whole song)$/.test(section.name)
  const title = kind[0]!.toUpperCase() + kind.slice(1)
  store.run('changeSection', {
    sectionId: section.id,
    set: {
      kind,
      ...(named && kind !== 'other'
        ? {
            name: ['verse', 'chorus', 'pre-chorus'].includes(kind)
              ? `${title} ${count + 1}`
              : count
                ? `${title} ${count + 1}`
                : title,
          }
        : {}),
    },
  })
}
const keyed = (line: Line, bar: BarBox): string => `${line.sectionId}-${bar.barIndex}`
</script>

<template>
  <div class="listen">
    <div class="tools">
      <template v-if="hearing.progress">
        <v-progress-linear
          class="progress"
          :model-value="hearing.progress.fraction * 100"
          color="primary"
          aria-label="Listening"
        /><span role="status">{{ hearing.progress.words }}…</span
        ><ActButton @click="hearing.cancel()">Stop</ActButton>
      </template>
      <template v-else>
        <ActButton
          v-if="!hearing.analysis"
          kind="main"
          data-test="listen"
          :disabled="transport.recordingState !== 'ready' || Boolean(store.readOnly)"
          @click="hearing.listen()"
        >
          Listen
        </ActButton>
        <ActButton
          v-else
          data-test="hear-again"
          title="G: on the beats and sections as they are now"
          :disabled="transport.recordingState !== 'ready' || Boolean(store.readOnly)"
          @click="beats.hearAgain()"
        >
          Hear again
        </ActButton>
        <template v-if="laidOut && store.onMainSource">
          <ActButton title="1: this beat is the one" @click="beats.theOne(chosenSeconds(), false)">
            This is the one
          </ActButton>
          <ActButton @click="beats.halve()">Halve</ActButton
          ><ActButton @click="beats.double()">Double</ActButton>
          <ActButton
            :disabled="!transport.loop"
            title="The looped span has no pulse (F)"
            @click="transport.loop && beats.free(transport.loop.startSeconds, transport.loop.endSeconds)"
          >
            Free time
          </ActButton>
          <ActButton
            title="S: at the bar under the pointer or the playhead"
            data-test="mark-section"
            @click="markSection"
          >
            Section starts here
          </ActButton>
        </template>
        <ActButton v-if="transport.playing" @click="beats.tap()">Tap (T)</ActButton>
        <ActButton v-if="beats.taps.value.length" kind="main" @click="beats.keepTaps()">
          Keep {{ beats.taps.value.length }} taps
        </ActButton>
        <span class="facts quiet">{{ facts }}</span>
      </template>
    </div>
    <p v-if="beats.problem.value" class="evidence problem" role="status">{{ beats.problem.value }}</p>
    <div class="columns" :class="{ open: hearing.suggestions.length > 0 }">
      <div>
        <div
          ref="sheet"
          class="sheet"
          :class="{ dragging: drag?.kind === 'loop' }"
          :style="{ height: layout ? `${layout.height}px` : '60vh' }"
          data-test="sheet"
          @pointerdown="pointerDown"
          @pointermove="pointerMove"
          @pointerup="pointerUp"
          @pointercancel="drag = undefined"
          @pointerleave="hovered = undefined"
        >
          <template v-if="layout">
            <div
              v-for="(box, index) in loopBoxes"
              :key="index"
              class="loop"
              :style="{ transform: `translate(${box.left}px, ${box.top}px)`, width: `${box.width}px` }"
            />
            <ListenRuledLine
              v-for="line in layout.lines"
              :key="keyed(line, line.bars[0]!)"
              :line="line"
              :outline="outline"
              :left="layout.left"
              :width="width"
              :hovered-bar="hovered?.barIndex"
              @edit="
                line.heading?.suggested && !store.song!.sections[line.sectionId]
                  ? chooseBarAt(line.bars[0]!.startSeconds)
                  : (editing = line.sectionId)
              "
            />
            <div
              v-if="chosenBox"
              class="chosen-bar"
              :style="{
                transform: `translate(${chosenBox.x}px, ${chosenBox.top}px)`,
                width: `${chosenBox.width}px`,
              }"
            />
            <div
              v-if="beatMark"
              class="beat-mark"
              :style="{ transform: `translate(${beatMark.x}px, ${beatMark.top}px)` }"
            />
            <div ref="playhead" class="playhead" data-test="playhead" />
          </template>
          <div v-else-if="!laidOut" class="empty">
            <h2>The recording is not laid out in bars yet</h2>
            <p>
              {{
                hearing.progress
                  ? 'It is being listened to: bars appear here as soon as the pulse is found.'
                  : 'Let it be listened to, or tap along with T while it plays.'
              }}
              Press <kbd>Space</kbd> to hear it.
            </p>
          </div>
        </div>
        <p v-if="laidOut" class="sums quiet mono" data-test="sums">{{ sums }}</p>
      </div>
      <HeardPanel :bar="barBox" @accept-line="acceptLine" @count="beats.countAt($event)"
        ><OtherRecordings
      /></HeardPanel>
    </div>

    <v-dialog
      aria-label="Section"
      :model-value="Boolean(edited)"
      max-width="520"
      @update:model-value="editing = undefined"
    >
      <v-card v-if="edited" class="dialog">
        <h2>{{ edited.section.name }}</h2>
        <p class="quiet mono">
          {{ clock(store.map?.seconds[store.map.ticks.indexOf(edited.startTicks)] ?? 0, 1) }} ·
          {{ edited.section.bars.length }} bars
        </p>
        <v-text-field
          label="Name"
          :model-value="edited.section.name"
          maxlength="80"
          autofocus
          data-test="section-name"
          @change="renameTo(($event.target as HTMLInputElement).value)"
          @keydown.enter="
            (event: Event) => {
              renameTo((event.target as HTMLInputElement).value)
              editing = undefined
            }
          "
        />
        <div class="kinds" role="group" aria-label="Type">
          <ActButton
            v-for="kind in SECTION_KINDS"
            :key="kind"
            :aria-pressed="edited.section.kind === kind"
            @click="kindTo(kind)"
          >
            {{ kind }}
          </ActButton>
        </div>
        <v-select
          v-if="earlier.length"
          label="Returns"
          :items="[
            { title: 'nothing: it is new', value: '' },
            ...earlier.map((section) => ({ title: section.name, value: section.id })),
          ]"
          :model-value="edited.section.returns?.sectionId ?? ''"
          @update:model-value="
            store.run('setReturn', {
              sectionId: edited!.section.id,
              returns: $event ? { sectionId: $event, shiftSemitones: 0, withDifferences: true } : null,
            })
          "
        />
        <v-select
          label="Counted in"
          :items="USUAL_METERS.map(meterName)"
          :model-value="meterName(edited.section.bars.find((bar) => !bar.free)?.meter ?? store.song!.meter)"
          @update:model-value="
            beats.countSection(
              edited!.section.id,
              USUAL_METERS.find((meter) => meterName(meter) === $event)!,
            )
          "
        />
        <NumberField
          label="Passes (times through)"
          :schema="sectionSchema.shape.passes"
          :model-value="edited.section.passes"
          @take="store.run('changeSection', { sectionId: edited!.section.id, set: { passes: $event } })"
        />
        <div v-if="earlier.length" class="acts">
          <ActButton @click="store.run('moveSectionStart', { sectionId: edited!.section.id, byBars: -1 })">
            Start a bar earlier</ActButton
          ><ActButton @click="store.run('moveSectionStart', { sectionId: edited!.section.id, byBars: 1 })">
            Start a bar later
          </ActButton>
          <ActButton
            @click="store.run('mergeSection', { sectionId: edited!.section.id }) && (editing = undefined)"
          >
            Merge into the one before
          </ActButton>
        </div>
        <ActButton kind="main" @click="editing = undefined">Done</ActButton>
      </v-card>
    </v-dialog>
  </div>
</template>

<style scoped>
.listen {
  padding: 12px 22px 24px 20px;
}
.tools {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 38px;
  flex-wrap: wrap;
  position: sticky;
  top: 0;
  background: var(--page);
  z-index: 4;
  padding-block: 4px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 262px;
  gap: 18px;
  align-items: start;
}
.columns :deep(.heard) {
  position: sticky;
  top: 52px;
  max-height: calc(100vh - 190px);
  overflow-y: auto;
}
@media (max-width: 1100px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .columns :deep(.heard) {
    position: static;
    max-height: none;
    border-left: 0;
    border-top: 1px solid var(--rule);
    padding-left: 0;
  }
  .columns.open :deep(.heard) {
    order: -1;
    border-top: 0;
    border-bottom: 1px solid var(--rule);
  }
}
.progress {
  max-width: 260px;
}
.facts {
  margin-left: auto;
  font-size: 14.5px;
}
.problem {
  margin: 4px 0;
}
.sheet {
  position: relative;
  margin-top: 8px;
  touch-action: pan-y;
  user-select: none;
}
.loop {
  position: absolute;
  height: 78px;
  background: var(--selection);
  top: 0;
  left: 0;
}
.chosen-bar {
  position: absolute;
  left: 0;
  top: 0;
  height: 76px;
  border: 1.5px solid var(--action);
  border-radius: 3px;
  pointer-events: none;
}
.playhead {
  position: absolute;
  left: -1px;
  top: -2px;
  width: 2px;
  height: 58px;
  background: var(--attention);
  pointer-events: none;
  will-change: transform;
  z-index: 3;
  scroll-margin-block: 90px 120px;
}
.beat-mark {
  position: absolute;
  left: -5px;
  top: 44px;
  width: 10px;
  height: 12px;
  border: 2px solid var(--action);
  border-radius: 3px;
  pointer-events: none;
}
.empty {
  padding: 60px 0 0 20px;
  max-width: 560px;
  display: grid;
  gap: 10px;
}
.sums {
  font-size: 13.5px;
  border-top: 1.5px solid var(--deep);
  padding-top: 8px;
  margin-top: 6px;
}
.dialog {
  padding: 22px 26px;
  display: grid;
  gap: 14px;
}
.kinds,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.main-button {
  justify-self: start;
}
</style>
