<script setup lang="ts">
import { OFFERED_MARKS } from '#core/articulation'
import { z } from 'zod'
import { MOST_FIGURE_BARS, own } from '#core/document/invariants/problem'
import {
  BENCH_METRICS,
  BESIDE_METRICS,
  engraveTab,
  tickToX,
  xToTick,
  type TabSystem,
} from '#core/engrave/tab'
import { engraveNeck, neckPlace, type NeckDot } from '#core/engrave/neck'
import { outlinePolygon } from '#core/engrave/listen-lines'
import { chordsOver } from '#core/fretboard/lines/derive'
import { fingeringWords } from '#core/fretboard/grips/fingering'
import { lineProblems } from '#core/fretboard/lines/line-problems'
import { wrongPicks, wrongWays } from '#core/fretboard/strokes'
import { STRAIGHT_MAP_SECONDS_PER_TICK } from '#core/timeline/tempo'
import { cutToLength, gripAt, repeated, setGrip } from '#core/document/figure-edit'
import { storeContent } from '#core/document/figure-layers'
import { playsOfPart } from '#core/timeline/timeline'
import { secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import {
  barTicks,
  countWords,
  meterName,
  SUBDIVISIONS,
  USUAL_METERS,
  type Subdivision,
} from '#core/time/meter'
import { EMPTY_CONTENT, type Content, type Figure, type Note } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useBench, type BenchRow } from '~/composables/benchKeys'
import { useElementWidth } from '~/composables/elementWidth'
import { useOutline } from '~/composables/outline'
import { useShortcuts } from '~/composables/shortcuts'
import { useSong } from '~/stores/song'
import { usePreferences } from '~/stores/preferences'
import { useTransport } from '~/stores/transport'

const store = useSong()
const transport = useTransport()
const preferences = usePreferences()
const outline = useOutline()
const route = useRoute()
const figures = computed(() =>
  store.parts.flatMap((player) =>
    Object.values(store.song?.figures ?? {}).filter((figure) => figure.partId === player.id),
  ),
)
const figure = computed<Figure | undefined>(
  () => own(store.song?.figures ?? {}, String(route.query.figure ?? '')) ?? figures.value[0],
)
const bench = useBench(figure)
const { row, tick, part } = bench
const board = ref<HTMLElement>()
const width = useElementWidth(board)
const shown = bench.content
/** Shown on the strings before it is entered: what the call line says, a path, a second line. */
const draft = shallowRef<Partial<Content>>()
const draftNotes = (notes: Note[]): void => {
  draft.value = notes.length ? { notes } : undefined
}
const panelMarks = shallowRef<string[]>([])
const marked = computed(() => {
  const shape = figure.value
  if (!shape || !part.value) return new Set<string>()
  const feel = { meter: shape.meter, subdivision: shape.feel.subdivision }
  return new Set([
    ...panelMarks.value,
    ...lineProblems(shown.value, part.value, preferences.hand).map((problem) => problem.id),
    ...wrongWays(shown.value.strokes, shape.school ?? 'pendulum', feel),
    ...(shape.school ? wrongPicks(shown.value.notes, shape.school, feel) : []),
  ])
})
const chords = computed(() => (store.song && figure.value ? chordsOver(store.song, figure.value) : []))
const TABS = ['grip', 'line', 'hand', 'second', 'compare', 'say'] as const
const TAB_NAMES = {
  grip: 'Grip',
  line: 'Line',
  hand: 'Hand',
  second: 'Second line',
  compare: 'Compare',
  say: 'Say',
}
const tab = ref<(typeof TABS)[number]>('grip')
if (bench.content.value.notes.length && !bench.content.value.grips.length) tab.value = 'line'
watch(tab, () => {
  draft.value = undefined
  beside.value = undefined
  panelMarks.value = []
})
const callLine = ref<{ focus: (words?: string) => void }>()
const gripPanel = ref<{ focus: () => void }>()
/** What is compared, drawn under the figure to the same ruler. */
const beside = shallowRef<{ title: string; content: Content }>()
const besideDrawing = computed(() => {
  const player = part.value
  if (!beside.value || !figure.value || !player || width.value < 200) return undefined
  return engraveTab({
    figure: figure.value,
    content: beside.value.content,
    width: width.value,
    metrics: BESIDE_METRICS,
    stringNames: player.tuning.openMidi.map((_, index) => store.stringLabel(player, index + 1)),
    gripNames: Object.fromEntries(
      beside.value.content.grips.map((span) => [span.id, store.gripName(player, span.grip)]),
    ),
  })
})
const toBoard = (): void => board.value?.focus({ preventScroll: true })
function sayAgain(words: string, startTicks: number): void {
  bench.go(row.value, startTicks)
  callLine.value?.focus(words)
}
function hearDraft(content: Content): void {
  if (figure.value) {
    transport.setScope({ kind: 'figure', figureId: figure.value.id, draft: content })
    void transport.play()
  }
}

const drawing = computed(() => {
  const player = part.value
  if (!figure.value || !player || width.value < 200) return undefined
  return engraveTab({
    figure: figure.value,
    content: shown.value,
    width: width.value,
    metrics: BENCH_METRICS,
    stringNames: player.tuning.openMidi.map((_, index) => store.stringLabel(player, index + 1)),
    gripNames: Object.fromEntries(
      shown.value.grips.map((span) => [span.id, store.gripName(player, span.grip)]),
    ),
    ...(draft.value ? { draft: draft.value } : {}),
    marked: marked.value,
  })
})
const placed = computed(() =>
  store.song && figure.value
    ? playsOfPart(store.song, figure.value.partId).filter((play) => play.figure?.id === figure.value!.id)
    : [],
)
const placeWords = computed(() => {
  const sections = new Set(placed.value.map((play) => play.placement.sectionId)).size
  return placed.value.length
    ? `placed ${placed.value.length} ${placed.value.length === 1 ? 'time' : 'times'} in ${sections} ${sections === 1 ? 'section' : 'sections'}`
    : 'not placed in the form yet'
})
const outlines = computed(() => {
  const place = figure.value && transport.figurePlace(figure.value.id)
  if (!place?.placed || !outline.value || !store.map || !drawing.value) return []
  const bar = barTicks(figure.value!.meter)
  return drawing.value.systems.flatMap((system) =>
    Array.from({ length: Math.round((system.endTicks - system.startTicks) / bar) }, (_, index) => {
      const from = system.startTicks + index * bar
      const x = tickToX(system, from)
      return outlinePolygon(outline.value!, 'peaks', {
        fromSeconds: ticksToSeconds(store.map!, place.startTicks + from),
        toSeconds: ticksToSeconds(store.map!, place.startTicks + from + bar),
        x,
        width: tickToX(system, from + bar) - x,
        baseY: system.outlineY + 34,
        height: 32,
      })
        .map((value) => Math.round(value * 10) / 10)
        .join(' ')
    }),
  )
})

// The cursor: a box over the row and step that keys act on.
const systemOf = (at: number): TabSystem | undefined =>
  drawing.value?.systems.find((system) => at >= system.startTicks && at < system.endTicks)
const rowY = (system: TabSystem, which: BenchRow): number =>
  which === 'grips' ? system.gripY - 6 : which === 'hand' ? system.handY - 5 : system.stringYs[which - 1]!
const cursorBox = computed(() => {
  const system = systemOf(tick.value)
  if (!system) return undefined
  const x = tickToX(system, tick.value)
  return {
    x: x - 1,
    y: rowY(system, row.value) - 11,
    width: Math.max(18, tickToX(system, tick.value + bench.step.value) - x),
    height: 22,
  }
})
function pointTo(event: MouseEvent): void {
  if (!drawing.value || !board.value) return
  const box = board.value.getBoundingClientRect()
  const y = event.clientY - box.top
  const system =
    drawing.value.systems.findLast((candidate) => y >= candidate.top - 8) ?? drawing.value.systems[0]!
  const at = Math.floor(xToTick(system, event.clientX - box.left + 1) / bench.step.value) * bench.step.value
  const distances: [BenchRow, number][] = [
    ['grips', Math.abs(system.gripY - 4 - y)],
    ...system.stringYs.map((stringY, index): [BenchRow, number] => [index + 1, Math.abs(stringY - y)]),
    ['hand', Math.abs(system.handY - 4 - y)],
  ]
  if (at < system.startTicks) return
  bench.go(distances.reduce((best, next) => (next[1] < best[1] ? next : best))[0], at)
  board.value.focus({ preventScroll: true })
}

// The neck shows what is fretted at the cursor and takes fretting.
const neckWidth = computed(() => width.value)
const gripHere = computed(() => gripAt(shown.value, tick.value))
const onGrip = computed(() => row.value === 'grips' || row.value === 'hand')
const dots = computed<NeckDot[]>(() => {
  // A whole line lies on the neck while it is only looked at.
  if (draft.value?.notes?.length)
    return [...new Map(draft.value.notes.map((note) => [`${note.string}/${note.fret}`, note])).values()].map(
      (note): NeckDot => ({ string: note.string, fret: note.fret, label: note.finger ?? '', role: 'action' }),
    )
  const notes = shown.value.notes.filter(
    (note) => note.startTicks <= tick.value && tick.value < note.startTicks + note.lengthTicks,
  )
  const held =
    gripHere.value?.grip.strings.flatMap((string, index): NeckDot[] =>
      string.fret === null
        ? []
        : [
            {
              string: index + 1,
              fret: string.fret,
              label: string.finger ?? gripFacts.value?.degrees[index] ?? '',
              role: onGrip.value ? 'action' : 'quiet',
            },
          ],
    ) ?? []
  return [
    ...(notes.length && !onGrip.value ? [] : held),
    ...(onGrip.value
      ? []
      : notes.map((note): NeckDot => ({
          string: note.string,
          fret: note.fret,
          label: note.finger ?? '',
          role: 'action',
        }))),
  ]
})
const neck = computed(() =>
  part.value
    ? engraveNeck({
        strings: bench.strings.value,
        frets: Math.min(part.value.instrument.fretCount - part.value.instrument.capo, 17),
        capo: part.value.instrument.capo,
        width: neckWidth.value,
        dots: dots.value,
        mutedStrings:
          onGrip.value && gripHere.value
            ? gripHere.value.grip.strings.flatMap((string, index) =>
                string.fret === null ? [index + 1] : [],
              )
            : [],
        stringNames: part.value.tuning.openMidi.map((_, index) => store.stringLabel(part.value!, index + 1)),
      })
    : undefined,
)
function clickNeck(event: MouseEvent): void {
  if (!neck.value || !figure.value) return
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const place = neckPlace(neck.value, event.clientX - box.left, event.clientY - box.top)
  if (!place) return
  if (!onGrip.value) {
    bench.fret(place.string, place.fret)
    return
  }
  const strings =
    gripHere.value?.grip.strings ?? Array.from({ length: bench.strings.value }, () => ({ fret: null }))
  const next = strings.map((string, index) =>
    index + 1 === place.string ? { fret: string.fret === place.fret ? null : place.fret } : string,
  )
  bench.edit(
    'fret a grip',
    setGrip(bench.content.value, {
      tick: gripHere.value?.startTicks ?? tick.value,
      grip: { strings: next },
      id: randomId(),
      figureTicks: figure.value.lengthTicks,
    }),
  )
}
const gripFacts = computed(() =>
  gripHere.value && part.value ? store.factsOf(part.value, gripHere.value.grip) : undefined,
)

/** The hand on the grip, in words. */
const handWords = computed(() => {
  const fingering = onGrip.value ? gripFacts.value?.fingering : undefined
  const words =
    fingering && gripHere.value && part.value
      ? fingeringWords(gripHere.value.grip, fingering, part.value)
      : ''
  return words && `${words[0]!.toUpperCase()}${words.slice(1)}. `
})

/** What a figure’s length may be, in bars. */
const barsSchema = z.number().min(0.25).max(MOST_FIGURE_BARS)
function setLength(bars: number): void {
  if (!figure.value || !(bars > 0)) return
  const lengthTicks = Math.round(bars * barTicks(figure.value.meter))
  store.run('changeFigure', {
    figureId: figure.value.id,
    what: `length ${bars} bars`,
    set: {
      lengthTicks,
      ...storeContent(
        store.song!,
        { ...figure.value, lengthTicks },
        cutToLength(
          figure.value.eased && bench.eased.value ? figure.value.content : shown.value,
          lengthTicks,
        ),
      ),
      ...(figure.value.eased ? { eased: cutToLength(figure.value.eased, lengthTicks) } : {}),
    },
  })
}
function setMeter(value: string): void {
  const [beats, unit] = value.split('/').map(Number) as [number, 4 | 8]
  if (figure.value)
    store.run('changeFigure', {
      figureId: figure.value.id,
      what: `meter ${value}`,
      set: { meter: { beats, unit } },
    })
}
const setFeel = (set: Partial<Figure['feel']>): void => {
  if (figure.value)
    store.run('changeFigure', {
      figureId: figure.value.id,
      what: 'count and swing',
      set: { feel: { ...figure.value.feel, ...set } },
    })
}
/** What is counted, or that nothing is. */
function setCount(value: string): void {
  if (!figure.value) return
  const freeTime = value === 'free time'
  store.run('changeFigure', {
    figureId: figure.value.id,
    what: `count ${value}`,
    set: {
      freeTime,
      ...(freeTime ? {} : { feel: { ...figure.value.feel, subdivision: value as Subdivision } }),
    },
  })
}
function repeat(): void {
  const shape = figure.value
  if (shape)
    store.run('changeFigure', {
      figureId: shape.id,
      what: 'repeat',
      set: {
        lengthTicks: shape.lengthTicks * 2,
        ...storeContent(
          store.song!,
          { ...shape, lengthTicks: shape.lengthTicks * 2 },
          repeated(shown.value, shape.lengthTicks, 2, randomId),
        ),
      },
    })
}
function newFigure(): void {
  const player = part.value ?? store.parts[0]
  if (!player || !store.song) return
  const id = randomId()
  if (
    store.run('addFigure', {
      figure: {
        id,
        partId: player.id,
        name: `Figure ${figures.value.length + 1}`,
        lengthTicks: 2 * barTicks(store.song.meter),
        meter: store.song.meter,
        feel: store.song.feel,
        content: EMPTY_CONTENT,
      },
    })
  )
    choose(id)
}
function choose(id: string): void {
  void navigateTo({ query: { figure: id } })
  tick.value = 0
  void nextTick(toBoard)
}
function removeFigure(): void {
  if (figure.value)
    store.run('removeFigure', { figureId: figure.value.id }, () => void navigateTo({ query: {} }))
}
function hear(kind: 'figure' | 'part' | 'song'): void {
  if (!figure.value) return
  transport.setScope(
    kind === 'figure'
      ? { kind, figureId: figure.value.id, form: bench.form.value }
      : kind === 'part'
        ? { kind, partId: figure.value.partId }
        : { kind },
  )
  const place = transport.figurePlace(figure.value.id)
  void transport.play(
    kind !== 'figure' && place?.placed && store.map ? ticksToSeconds(store.map, place.startTicks) : undefined,
  )
}
watch(
  [() => figure.value?.id, bench.form],
  () => {
    if (figure.value)
      transport.setScope({ kind: 'figure', figureId: figure.value.id, form: bench.form.value })
  },
  { immediate: true },
)
watch(shown, () => {
  if (transport.playing && transport.scope.kind === 'figure') transport.replay()
})

const playhead = ref<HTMLElement>()
let frame = 0
function follow(): void {
  frame = requestAnimationFrame(follow)
  const element = playhead.value
  const place = figure.value && transport.figurePlace(figure.value.id)
  if (!element || !drawing.value || !place) return
  const at = transport.playing
    ? place.placed && store.map
      ? secondsToTicks(store.map, transport.position()) - place.startTicks
      : transport.position() / STRAIGHT_MAP_SECONDS_PER_TICK
    : -1
  const system = systemOf(at)
  element.style.opacity = system ? '1' : '0'
  if (system) {
    element.style.transform = `translate(${tickToX(system, at)}px, ${system.outlineY}px)`
    element.style.height = `${system.bottom - system.outlineY}px`
  }
}
onMounted(follow)
onBeforeUnmount(() => {
  cancelAnimationFrame(frame)
  transport.setScope({ kind: 'song' })
})

function writeGripHere(): void {
  row.value = 'grips'
  tab.value = 'grip'
  void nextTick(() => gripPanel.value?.focus())
}
function turnTab(by: number): void {
  tab.value = TABS[(TABS.indexOf(tab.value) + by + TABS.length) % TABS.length]!
}
const onString = (string: () => void, hand: () => void) => (): void => {
  if (typeof row.value === 'number') string()
  else hand()
}
const legato = (articulation: 'hammer-on' | 'pull-off') => () =>
  bench.articulate({ kind: articulation }, articulation)
const actions = [
  { keys: ['h'], label: 'hammer-on', run: legato('hammer-on'), rows: 'string' },
  { keys: ['p'], label: 'pull-off', run: legato('pull-off'), rows: 'string' },
  {
    keys: ['s'],
    label: 'slide',
    run: () => bench.articulate({ kind: 'slide', how: 'legato' }, 'slide'),
    rows: 'string',
  },
  { keys: ['b'], label: 'bend: 2, 1, ½, 3 semitones, none', run: () => bench.bend(), rows: 'string' },
  {
    keys: ['v'],
    label: 'vibrato',
    run: () => bench.articulate({ kind: 'vibrato', width: 'narrow' }, 'vibrato'),
    rows: 'string',
  },
  {
    keys: ['d'],
    label: 'down',
    run: onString(
      () => bench.dress({ pick: 'down' }, 'picked down'),
      () => bench.strike('down'),
    ),
    rows: 'struck',
  },
  {
    keys: ['u'],
    label: 'up',
    run: onString(
      () => bench.dress({ pick: 'up' }, 'picked up'),
      () => bench.strike('up'),
    ),
    rows: 'struck',
  },
  { keys: ['y'], label: 'fill with strokes by pendulum', run: () => bench.fillStrokes(), rows: 'hand' },
  { keys: ['c'], label: 'choke', run: () => bench.choke(), rows: 'hand' },
  { keys: ['m'], label: 'palm mute: light, medium, firm', run: () => bench.palmMute(), rows: 'struck' },
  { keys: ['x'], label: 'dead', run: () => bench.dead(), rows: 'struck' },
  { keys: ['a'], label: 'accent', run: () => bench.accent(), rows: 'struck' },
  { keys: ['r'], label: 'let ring', run: () => bench.letRing(), rows: 'both' },
  { keys: ['.'], label: 'longer', run: () => bench.lengthen(1), rows: 'both' },
  { keys: [','], label: 'shorter', run: () => bench.lengthen(-1), rows: 'both' },
  { keys: ['Delete', 'Backspace'], label: 'remove', run: () => bench.remove(), rows: 'both' },
]
function addMark(event: Event): void {
  const field = event.target as HTMLSelectElement
  const chosen = OFFERED_MARKS.find((entry) => entry.name === field.value)
  if (chosen) bench.articulate(chosen.mark, chosen.name)
  field.value = ''
  toBoard()
}
const palette = computed(() =>
  actions.filter(
    (action) =>
      action.rows === 'both' ||
      (action.rows === 'struck'
        ? row.value !== 'grips'
        : typeof row.value === 'number'
          ? action.rows === 'string'
          : action.rows === 'hand' && row.value === 'hand'),
  ),
)
useShortcuts([
  { keys: ['ArrowLeft'], label: 'Step back', run: () => bench.moveTick(-1), group: 'Cursor' },
  { keys: ['ArrowRight'], label: 'Step on', run: () => bench.moveTick(1), group: 'Cursor' },
  { keys: ['Shift+ArrowLeft'], label: 'Four steps back', run: () => bench.moveTick(-4), group: 'Cursor' },
  { keys: ['Shift+ArrowRight'], label: 'Four steps on', run: () => bench.moveTick(4), group: 'Cursor' },
  { keys: ['ArrowUp'], label: 'Row above', run: () => bench.moveRow(-1), group: 'Cursor' },
  { keys: ['ArrowDown'], label: 'Row below', run: () => bench.moveRow(1), group: 'Cursor' },
  { keys: ['Home'], label: 'First step', run: () => bench.go(row.value, 0), group: 'Cursor' },
  {
    keys: ['End'],
    label: 'Last step',
    run: () => bench.go(row.value, Number.MAX_SAFE_INTEGER),
    group: 'Cursor',
  },
  ...Array.from({ length: 10 }, (_, value) => ({
    keys: [String(value)],
    label: value === 0 ? 'Digits on a string: the fret' : '',
    run: () => bench.digit(value),
    group: 'Notes, grips, strokes',
  })).filter((entry, index) => index === 0 || entry.label === ''),
  ...(['1', '2', '3', '4', 'T'] as const).map((finger) => ({
    keys: [`Alt+${finger.toLowerCase()}`],
    label: finger === '1' ? 'Alt and 1 to 4, T: fretting finger' : '',
    run: () => bench.dress({ finger }, `finger ${finger}`),
    group: 'Notes, grips, strokes',
  })),
  ...actions.map(({ keys, label, run, rows }) => ({
    keys,
    label: `${label}${rows === 'string' ? ' (strings)' : rows === 'hand' ? ' (hand)' : ''}`,
    run,
    group: 'Notes, grips, strokes',
  })),
  { keys: ['n'], label: 'New figure', run: newFigure, group: 'Notes, grips, strokes' },
  { keys: ['l'], label: 'The call line', run: () => callLine.value?.focus(), group: 'Notes, grips, strokes' },
  { keys: ['g'], label: 'Write the grip', run: writeGripHere, group: 'Notes, grips, strokes' },
  { keys: [']'], label: 'Next page of what is known', run: () => turnTab(1), group: 'Notes, grips, strokes' },
  { keys: ['['], label: 'Page before', run: () => turnTab(-1), group: 'Notes, grips, strokes' },
  {
    keys: ['Enter'],
    label: 'On the hand row: stroke by pendulum',
    run: onString(
      () => bench.moveTick(1),
      () => {
        if (row.value === 'hand') bench.strike(undefined)
        else writeGripHere()
      },
    ),
    group: 'Notes, grips, strokes',
  },
  { keys: ['Shift+Space'], label: 'The whole chart from here', run: () => hear('song'), group: 'Hear' },
  { keys: ['q'], label: 'This part alone', run: () => hear('part'), group: 'Hear' },
  { keys: ['f'], label: 'The figure alone, looped', run: () => hear('figure'), group: 'Hear' },
])
const cursorWords = computed(() =>
  figure.value
    ? `${row.value === 'grips' ? 'Grips' : row.value === 'hand' ? 'Hand' : `String ${row.value}`}, bar ${Math.floor(tick.value / barTicks(figure.value.meter)) + 1}, ${countWords(figure.value.meter, tick.value % barTicks(figure.value.meter))}`
    : '',
)
const METERS = USUAL_METERS.map(meterName)
</script>

<template>
  <div v-if="!figure" class="empty">
    <h2>No figures yet</h2>
    <p v-if="store.parts.length === 0">
      Add the band first in <NuxtLink class="link" :to="`/song/${store.song?.id}/setup`">Set up</NuxtLink>.
    </p>
    <template v-else
      ><p>A figure is what you would talk about in a lesson: a riff, a strummed pattern, a fill.</p>
      <ActButton kind="main" data-test="first-figure" @click="newFigure">
        New figure for {{ store.parts[0]?.name }}
      </ActButton></template
    >
  </div>
  <div v-else class="chart">
    <div class="bench">
      <div class="head">
        <input
          class="name"
          :value="figure.name"
          maxlength="80"
          aria-label="Name of the figure"
          @change="
            store.run('changeFigure', {
              figureId: figure!.id,
              what: 'name',
              set: { name: ($event.target as HTMLInputElement).value.trim() || figure!.name },
            })
          "
        />
        <span
          v-if="figure.sourceId && store.song?.sources[figure.sourceId]"
          class="flag"
          :title="`Read from ${store.song.sources[figure.sourceId]!.name}`"
          >{{ store.song.sources[figure.sourceId]!.name[0] }}</span><span class="quiet meta"
          >{{ part?.name }} · {{ placeWords }}</span
        >
        <label class="pick"
          ><span class="visually-hidden">Figure</span
          ><select
            :value="figure.id"
            data-test="figure-select"
            @change="choose(($event.target as HTMLSelectElement).value)"
          >
            <option v-for="entry in figures" :key="entry.id" :value="entry.id">
              {{ store.song?.parts[entry.partId]?.name }}: {{ entry.name }}
            </option>
          </select></label
        >
        <ActButton @click="newFigure">New figure</ActButton>
      </div>
      <div class="settings">
        <NumberField
          label="bars"
          class="bars"
          :schema="barsSchema"
          :step="0.25"
          :model-value="figure.lengthTicks / barTicks(figure.meter)"
          data-test="bars"
          @take="setLength"
        />
        <label
          >meter
          <select
            :value="meterName({ ...figure.meter, grouping: undefined })"
            @change="setMeter(($event.target as HTMLSelectElement).value)"
          >
            <option v-for="meter in METERS" :key="meter">{{ meter }}</option>
          </select></label
        >
        <label
          >count
          <select
            :value="figure.freeTime ? 'free time' : figure.feel.subdivision"
            data-test="subdivision"
            @change="setCount(($event.target as HTMLSelectElement).value)"
          >
            <option v-for="entry in SUBDIVISIONS" :key="entry">{{ entry }}</option>
            <option>free time</option>
          </select></label
        >
        <label
          >swing
          <select
            :value="figure.feel.swing.ratio"
            @change="
              setFeel({
                swing: { ...figure!.feel.swing, ratio: Number(($event.target as HTMLSelectElement).value) },
              })
            "
          >
            <option
              v-for="ratio in [...new Set([0.5, 0.55, 0.6, 0.64, 0.667, 0.7, figure.feel.swing.ratio])]"
              :key="ratio"
              :value="ratio"
            >
              {{ ratio === 0.5 ? 'straight' : `${Math.round(ratio * 100)} %` }}
            </option>
          </select></label
        >
        <ActButton title="Twice as long, played twice" @click="repeat">Repeat</ActButton>
        <span class="space" />
        <span class="quiet">hear</span
        ><ActButton
          :aria-pressed="transport.scope.kind === 'figure'"
          title="F"
          data-test="hear-figure"
          @click="hear('figure')"
        >
          figure</ActButton
        ><ActButton :aria-pressed="transport.scope.kind === 'part'" title="Q" @click="hear('part')">
          part</ActButton
        ><ActButton
          :aria-pressed="transport.scope.kind === 'song'"
          title="The whole chart from here (Shift Space)"
          @click="hear('song')"
        >
          song
        </ActButton>
      </div>
      <CallLine
        ref="callLine"
        :bench="bench"
        :figure="figure"
        :chords="part ? [...new Set(chords.map((chord) => store.shownChord(part!, chord.symbol)))] : []"
        @draft="(content) => (draft = content)"
        @leave="toBoard"
      />
      <div
        ref="board"
        class="board"
        tabindex="0"
        role="application"
        :aria-label="`Bench. ${cursorWords}. Arrow keys move, digits set frets.`"
        data-test="board"
        @pointerdown="pointTo"
      >
        <template v-if="drawing">
          <svg class="outline" :width="drawing.width" :height="drawing.height" aria-hidden="true">
            <polygon v-for="(points, index) in outlines" :key="index" :points="points" />
          </svg>
          <div
            v-if="cursorBox"
            class="cursor"
            :style="{
              transform: `translate(${cursorBox.x}px, ${cursorBox.y}px)`,
              width: `${cursorBox.width}px`,
              height: `${cursorBox.height}px`,
            }"
          />
          <MusicDrawing
            class="tab"
            :primitives="drawing.primitives"
            :width="drawing.width"
            :height="drawing.height"
            :label="`Tablature of ${figure.name}`"
          />
          <div ref="playhead" class="playhead" />
          <template v-for="system in drawing.systems" :key="system.firstBar"
            ><span class="row-name" :style="{ top: `${system.mutingY - 13}px` }">mute</span
            ><span class="row-name" :style="{ top: `${system.handY - 13}px` }">hand</span
            ><span class="row-name" :style="{ top: `${system.countY - 13}px` }">count</span></template
          >
        </template>
      </div>
      <section v-if="beside && besideDrawing" class="beside" data-test="beside" :aria-label="beside.title">
        <h2 class="small-head">{{ beside.title }}</h2>
        <MusicDrawing
          :primitives="besideDrawing.primitives"
          :width="besideDrawing.width"
          :height="besideDrawing.height"
          :label="`Tablature of ${beside.title}`"
        />
      </section>
      <div class="palette" role="toolbar" :aria-label="`For ${cursorWords}`">
        <b class="where">{{ cursorWords }}</b>
        <ActButton v-for="action in palette" :key="action.label" class="small" @click="action.run()">
          {{ action.label.split(':')[0] }}
          <kbd>{{ action.keys[0] === 'Delete' ? 'Del' : action.keys[0] }}</kbd></ActButton
        ><select
          v-if="typeof row === 'number'"
          class="small marks"
          aria-label="More marks for this note"
          data-test="more-marks"
          @change="addMark"
        >
          <option value="">more marks</option>
          <option v-for="entry in OFFERED_MARKS" :key="entry.name">{{ entry.name }}</option>
        </select>
      </div>
      <div class="neck" data-test="neck" @click="clickNeck">
        <MusicDrawing
          v-if="neck"
          :primitives="neck.primitives"
          :width="neckWidth"
          :height="neck.height"
          label="The neck: click to fret"
        />
      </div>
      <p class="quiet neck-words">
        {{ handWords
        }}{{
          onGrip
            ? 'Click a fret to hold it, click again to mute the string.'
            : 'The neck writes a note at the cursor: click string and fret.'
        }}
      </p>
    </div>
    <aside class="knows" aria-label="What is known here">
      <div class="tabs" role="tablist" aria-label="Pages of what is known">
        <button
          v-for="name in TABS"
          :id="`tab-${name}`"
          :key="name"
          role="tab"
          :aria-selected="tab === name"
          :tabindex="tab === name ? 0 : -1"
          aria-controls="known"
          :data-test="`tab-${name}`"
          @click="tab = name"
          @keydown.right.prevent.stop="turnTab(1)"
          @keydown.left.prevent.stop="turnTab(-1)"
        >
          {{ TAB_NAMES[name] }}
        </button>
      </div>
      <div id="known" role="tabpanel" :aria-labelledby="`tab-${tab}`">
        <GripFacts
          v-if="tab === 'grip'"
          ref="gripPanel"
          :bench="bench"
          :figure="figure"
          :chords="chords"
          @leave="toBoard"
        />
        <LineFacts
          v-else-if="tab === 'line'"
          :bench="bench"
          :figure="figure"
          :chords="chords"
          @draft="draftNotes"
          @hear="hearDraft"
        />
        <HandFacts v-else-if="tab === 'hand'" :bench="bench" :figure="figure" />
        <SecondLine
          v-else-if="tab === 'second'"
          :bench="bench"
          :figure="figure"
          @choose="choose"
          @draft="draftNotes"
          @hear="hearDraft"
          @beside="(what) => (beside = what)"
        />
        <CompareFacts
          v-else-if="tab === 'compare'"
          :bench="bench"
          :figure="figure"
          @choose="choose"
          @marks="(ids) => (panelMarks = ids)"
          @beside="(what) => (beside = what)"
        />
        <SayFacts v-else :bench="bench" :figure="figure" @say="sayAgain" />
      </div>
      <p v-if="figure.note" class="other note">{{ figure.note }}</p>
      <p class="other foot">
        <span class="quiet">{{
          preferences.values.naming === 'shape' ? 'Names by shape' : 'Names as sounding'
        }}</span>
        <ActButton class="small" @click="removeFigure">Remove this figure</ActButton>
      </p>
    </aside>
  </div>
</template>

<style scoped>
.empty {
  padding: 60px 0 0 40px;
  display: grid;
  gap: 12px;
  justify-items: start;
}
.chart {
  display: grid;
  grid-template-columns: 1fr 254px;
  gap: 18px;
  padding: 10px 14px 16px 16px;
  min-height: 100%;
}
.bench {
  min-width: 0;
}
.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
.name {
  font: 700 22px var(--face-heading);
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  color: inherit;
  min-width: 120px;
  field-sizing: content;
  max-width: 460px;
  padding: 0;
}
.name:hover {
  border-color: var(--deep);
}
.flag {
  border: 1.5px solid var(--evidence);
  color: var(--evidence);
  font: 700 12px var(--face-mono);
  padding: 0 5px;
  border-radius: 0 6px 6px 0;
  align-self: center;
}
.meta {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.pick {
  margin-left: auto;
}
select,
.settings input,
.grip-form input {
  border: 1px solid var(--deep);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  padding: 2px 6px;
  min-height: 28px;
}
.pick select {
  max-width: 190px;
}
.settings {
  display: flex;
  gap: 12px;
  align-items: center;
  margin: 8px 0 10px;
  font-size: 14.5px;
  flex-wrap: wrap;
}
.settings .number-field {
  flex: 0 0 104px;
}
.space {
  flex: 1;
}
.board {
  position: relative;
  outline-offset: 4px;
  cursor: crosshair;
  touch-action: manipulation;
}
.outline {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
.outline polygon {
  fill: var(--deep);
  opacity: 0.3;
}
.tab {
  position: relative;
  pointer-events: none;
}
.cursor {
  position: absolute;
  background: var(--selection);
  border: 1.5px solid var(--action);
  border-radius: 3px;
  pointer-events: none;
  left: 0;
  top: 0;
}
.playhead {
  position: absolute;
  top: 0;
  left: -1px;
  width: 2px;
  background: var(--attention);
  opacity: 0;
  pointer-events: none;
  will-change: transform;
}
.row-name {
  position: absolute;
  left: 0;
  font-size: 12.5px;
  color: var(--quiet);
  pointer-events: none;
}
.beside {
  border-left: 3px solid var(--rule);
  padding-left: 8px;
  margin: 4px 0 6px -11px;
}
.palette {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
  align-items: center;
  min-height: 34px;
  margin: 8px 0 4px;
}
.where {
  margin-right: 6px;
  font-size: 14px;
  min-width: 142px;
}
.small {
  font-size: 12.5px;
  padding: 2px 5px;
}
.marks {
  min-height: 24px;
  width: 104px;
}
.neck {
  cursor: pointer;
}
.neck-words {
  font-size: 13.5px;
  margin: 2px 0 0;
}
.knows {
  border-left: 1px solid var(--rule);
  padding-left: 14px;
  display: grid;
  gap: 10px;
  align-content: start;
  font-size: 14.5px;
  min-width: 0;
}
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  border-bottom: 1px solid var(--rule);
}
.tabs button {
  background: none;
  border: 0;
  border-bottom: 2.5px solid transparent;
  padding: 3px 0 4px;
  font: 600 14px var(--face-text);
  color: var(--quiet);
  cursor: pointer;
  min-height: 28px;
}
.tabs button[aria-selected='true'] {
  color: var(--ink);
  border-color: var(--action);
}
.note {
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
.foot {
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
.knows :deep(.check) {
  display: flex;
  gap: 6px;
  align-items: center;
}
.knows :deep(select),
.knows :deep(input:not([type='checkbox']):not([type='file'])) {
  border: 1px solid var(--deep);
  border-radius: 4px;
  background: var(--paper);
  color: inherit;
  font: inherit;
  font-size: 13.5px;
  padding: 2px 5px;
  min-height: 27px;
  max-width: 100%;
}
.knows :deep(.wide) {
  width: 100%;
}
.knows :deep(.small) {
  font-size: 12.5px;
  padding: 2px 6px;
}
@media (max-width: 1000px) {
  .chart {
    grid-template-columns: 1fr;
  }
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
