<script setup lang="ts">
import { z } from 'zod'
import {
  keyName,
  MODES,
  nameAtFifths,
  pitchClassOf,
  pretty,
  spellPitchClass,
  transposeKey,
  type Key,
  type Mode,
} from '#core/music/pitch'
import type { Adapted } from '#core/fretboard/lines/adapt-line'
import { chordsOver, derivedContent } from '#core/fretboard/lines/derive'
import {
  checkHarmony,
  intervalWords,
  usualInterval,
  type HarmonyLine,
  type HarmonyRule,
} from '#core/fretboard/lines/harmony-line'
import { droppedByReason, octaveWords, type Merged } from '#core/fretboard/lines/merge-parts'
import { figureContent } from '#core/document/figure-content'
import { barTicks, countWords } from '#core/time/meter'
import {
  EMPTY_CONTENT,
  type Content,
  type Figure,
  type LineDerivation,
  type Note,
} from '#core/document/schema'
import type { MidiTrack } from '#core/exchange/midi-notes'
import { randomId } from '#platform/files'
import type { Bench } from '~/composables/benchKeys'
import { plain } from '#platform/plain'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

// Two lines together: a harmony line made and kept linked, or checked; two parts for one player; another
// instrument's line taken over.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{
  choose: [figureId: string]
  draft: [notes: Note[]]
  hear: [content: Content]
  beside: [what: { title: string; content: Content } | undefined]
}>()
const store = useSong()
const preferences = usePreferences()
const work = usePlayingWork()
const { part, content } = props.bench
const place = (at: number): string =>
  `bar ${Math.floor(at / barTicks(props.figure.meter)) + 1}, ${countWords(props.figure.meter, at % barTicks(props.figure.meter))}`

/** A sounding pitch class as it is named on the page. */
const nameOf = (pitchClass: number): string =>
  spellPitchClass((((pitchClass + store.nameShift) % 12) + 12) % 12, store.shownKey)

// Making one.
const size = ref(3)
const side = ref<'above' | 'below'>('below')
const kind = ref<'diatonic' | 'parallel'>('diatonic')
const key = ref<Key>({ ...(store.song?.key ?? { tonic: 'C', mode: 'major' }) })
const target = ref(props.figure.partId)
watch(
  () => props.figure.id,
  () => {
    target.value =
      store.parts.find(
        (player) =>
          player.id !== props.figure.partId && player.tuning.openMidi.length >= 6 && player.role === 'lead',
      )?.id ?? props.figure.partId
  },
  { immediate: true },
)
const SIZES = [
  [1, 'unison'],
  [3, 'third'],
  [4, 'fourth'],
  [5, 'fifth'],
  [6, 'sixth'],
  [8, 'octave'],
  [10, 'tenth'],
] as const
const interval = computed(() => (side.value === 'below' && size.value > 1 ? -size.value : size.value))
const exceptions = ref<LineDerivation['exceptions']>([])
const made = shallowRef<HarmonyLine>()
const problem = ref('')
const rule = computed<HarmonyRule>(() => ({
  interval: interval.value,
  kind: kind.value,
  key: key.value,
  exceptions: exceptions.value,
}))
watch([() => props.figure.id, content], () => {
  made.value = undefined
  exceptions.value = []
  emit('draft', [])
  emit('beside', undefined)
})
async function make(): Promise<void> {
  problem.value = ''
  const to = store.song?.parts[target.value]
  if (!part.value || !store.song || !to) return
  const found = await work.ask({
    want: 'harmony',
    content: content.value,
    from: part.value,
    to,
    rule: rule.value,
    chords: chordsOver(store.song, props.figure),
  })
  if (found.ok) {
    made.value = found.value
    emit('beside', {
      title: `${SIZES.find(([value]) => value === size.value)![1]}${size.value === 1 ? '' : ` ${side.value}`}, for ${to.name}`,
      content: { ...EMPTY_CONTENT, notes: found.value.notes },
    })
  } else if (found.refusal.code !== 'cancelled') {
    made.value = undefined
    problem.value = found.refusal.message
  }
}
watch([interval, kind, key, target], () => {
  if (made.value) {
    exceptions.value = []
    void make()
  }
})
/** Takes one note out of the rule so that it sits in the chord. */
function except(clash: HarmonyLine['clashes'][number]): void {
  if (clash.betterStep === undefined || !made.value) return
  exceptions.value = [
    ...exceptions.value.filter((one) => one.startTicks !== clash.startTicks),
    {
      startTicks: clash.startTicks,
      semitones: made.value.intervals[clash.index]! + clash.betterStep,
      why: clash.text,
    },
  ]
  void make()
}
function keep(): void {
  if (!made.value) return
  const id = randomId()
  const words = `${props.figure.name}, ${SIZES.find(([value]) => value === size.value)![1]}${size.value === 1 ? '' : ` ${side.value}`}`
  const { lengthTicks, meter, feel } = props.figure
  if (
    store.run('addFigure', {
      figure: {
        id,
        partId: target.value,
        name: words.slice(0, 80),
        lengthTicks,
        meter,
        feel,
        content: derivedContent(content.value, made.value),
        derivedFrom: { figureId: props.figure.id, ...plain(rule.value) },
      },
    })
  ) {
    emit('beside', undefined)
    emit('choose', id)
  }
}
const TONICS = Array.from({ length: 15 }, (_, index) => nameAtFifths(index - 6)).sort(
  (a, b) => pitchClassOf(a) - pitchClassOf(b) || a.localeCompare(b),
)
const shift = computed(() => store.nameShift)
const shownKey = computed(() => transposeKey(key.value, shift.value))
const setKey = (set: Partial<Key>): void => {
  key.value = transposeKey({ ...shownKey.value, ...set }, -shift.value)
}

// What this figure follows, or what is held against it.
const followed = computed(() =>
  props.figure.derivedFrom ? store.song?.figures[props.figure.derivedFrom.figureId] : undefined,
)
const others = computed(() =>
  Object.values(store.song?.figures ?? {}).filter(
    (other) =>
      other.id !== props.figure.id &&
      figureContent(store.song!, other).notes.length > 0 &&
      other.lengthTicks === props.figure.lengthTicks,
  ),
)
const against = ref('')
watch(
  () => props.figure.id,
  () => {
    against.value = props.figure.derivedFrom?.figureId ?? ''
  },
  { immediate: true },
)
const checked = computed(() => {
  const first = against.value && store.song?.figures[against.value]
  if (!first || !part.value || !store.song) return undefined
  const parts = { first: store.song.parts[first.partId]!, second: part.value }
  const lead = figureContent(store.song, first)
  const own = props.figure.derivedFrom?.figureId === first.id ? props.figure.derivedFrom : undefined
  const usual = own ?? {
    interval: usualInterval(lead, content.value, parts, store.song.key) ?? 0,
    kind: 'diatonic' as const,
    key: store.song.key,
    exceptions: [],
  }
  if (usual.interval === 0) return { words: 'They never sound together.', list: [] }
  const list = checkHarmony(lead, content.value, parts, usual, nameOf)
  const name =
    SIZES.find(([value]) => value === Math.abs(usual.interval))?.[1] ?? `${Math.abs(usual.interval)}th`
  return {
    words: `${usual.kind === 'parallel' ? 'Parallel' : 'Diatonic'} ${name}${Math.abs(usual.interval) === 1 ? '' : usual.interval < 0 ? ' below' : ' above'} in ${keyName(transposeKey(usual.key, shift.value))}: ${list.filter((one) => one.fits).length} of ${list.length} notes keep to it.`,
    list: list.filter((one) => !one.fits),
    exceptions: own?.exceptions ?? [],
  }
})

// Two into one.
const second = ref('')
const mergeable = computed(() =>
  Object.values(store.song?.figures ?? {}).filter(
    (other) =>
      other.id !== props.figure.id &&
      other.lengthTicks === props.figure.lengthTicks &&
      other.partId !== props.figure.partId,
  ),
)
const mergeWork = usePlayingWork()
const merged = shallowRef<Merged>()
const mergeProblem = ref('')
watch(
  () => props.figure.id,
  () => {
    second.value = ''
  },
)
watch([second, content, () => preferences.hand], async () => {
  const other = second.value ? store.song?.figures[second.value] : undefined
  if (!other || !part.value || !store.song) {
    if (merged.value) emit('beside', undefined)
    merged.value = undefined
    mergeProblem.value = ''
    return
  }
  const from = store.song.parts[other.partId]!
  const found = await mergeWork.ask({
    want: 'merge',
    first: content.value,
    second: figureContent(store.song, other),
    parts: { first: part.value, second: from },
    hand: { ...preferences.hand },
  })
  // Chosen anew, or another figure opened, while it was being fitted.
  if (second.value !== other.id) return
  if (!found.ok) {
    if (found.refusal.code !== 'cancelled') {
      merged.value = undefined
      mergeProblem.value = found.refusal.message
    }
    return
  }
  merged.value = found.value
  mergeProblem.value = ''
  emit('beside', {
    title: `with ${from.name}: ${other.name}, for ${part.value.name}`,
    content: found.value.content,
  })
})
/** "bar 1, 1; bar 1, 3; and 6 more". */
function placesOf(notes: readonly { startTicks: number }[]): string {
  const places = [...new Set(notes.map((note) => place(note.startTicks)))]
  return [...places.slice(0, 4), ...(places.length > 4 ? [`and ${places.length - 4} more`] : [])].join('; ')
}
const mergedWords = computed(
  () =>
    merged.value &&
    `${merged.value.kept + merged.value.shared} of ${merged.value.kept + merged.value.shared + merged.value.dropped.length} notes fit, ${octaveWords(merged.value.octaves)}${merged.value.shared ? `; ${merged.value.shared} of them both parts play` : ''}.`,
)
function keepMerged(): void {
  if (!merged.value) return
  const id = randomId()
  const { lengthTicks, meter, feel } = props.figure
  if (
    store.run('addFigure', {
      figure: {
        id,
        partId: props.figure.partId,
        name: `${props.figure.name} and ${store.song!.figures[second.value]!.name}`.slice(0, 80),
        lengthTicks,
        meter,
        feel,
        content: merged.value.content,
        note: merged.value.dropped.length
          ? `Left out: ${droppedByReason(merged.value.dropped)
              .map((group) => `${placesOf(group.notes)} (${group.why})`)
              .join('; ')}.`.slice(0, 2000)
          : 'Everything of both parts fits.',
      },
    })
  ) {
    second.value = ''
    emit('choose', id)
  }
}

// Taken over from another instrument.
const chooser = ref<HTMLInputElement>()
const tracks = shallowRef<MidiTrack[]>([])
const track = ref(0)
const fromBar = ref(1)
const adapted = shallowRef<Adapted>()
const midiProblem = ref('')
async function openMidi(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  tracks.value = []
  adapted.value = undefined
  midiProblem.value = ''
  if (!file) return
  const { readMidiNotes } = await import('#core/exchange/midi-notes')
  const read = readMidiNotes(new Uint8Array(await file.arrayBuffer()))
  input.value = ''
  if (!read.ok) {
    midiProblem.value = read.refusal.message
    return
  }
  tracks.value = read.value
  track.value = 0
  await adapt()
}
const barNumberSchema = z.int().min(1).max(5000)
function adaptFrom(bar: number): void {
  fromBar.value = bar
  void adapt()
}
async function adapt(): Promise<void> {
  const chosen = tracks.value[track.value]
  if (!chosen || !part.value || !store.song) return
  const from = (fromBar.value - 1) * barTicks(props.figure.meter)
  const notes = chosen.notes
    .map((note) => ({ ...note, startTicks: note.startTicks - from }))
    .filter((note) => note.startTicks >= 0 && note.startTicks < props.figure.lengthTicks)
  const found = await work.ask({
    want: 'adapt',
    notes,
    part: part.value,
    key: { ...store.song.key },
    options: { stepTicks: props.bench.step.value, lengthTicks: props.figure.lengthTicks },
  })
  if (found.ok) {
    adapted.value = found.value
    midiProblem.value = ''
    emit('draft', found.value.notes)
  } else if (found.refusal.code !== 'cancelled') {
    adapted.value = undefined
    midiProblem.value = found.refusal.message
  }
}
function keepAdapted(): void {
  if (
    adapted.value &&
    props.bench.edit('take over a line', {
      ...EMPTY_CONTENT,
      grips: content.value.grips,
      strokes: content.value.strokes,
      mutes: content.value.mutes,
      notes: adapted.value.notes.map((note) => ({ ...note, id: randomId() })),
    })
  ) {
    adapted.value = undefined
    tracks.value = []
    emit('draft', [])
  }
}
onBeforeUnmount(() => {
  emit('draft', [])
  emit('beside', undefined)
})
</script>

<template>
  <div class="panel">
    <section v-if="followed">
      <h2 class="small-head">Follows “{{ followed.name }}”</h2>
      <p class="other row">
        <ActButton class="small" @click="emit('choose', followed.id)">Go to it</ActButton
        ><ActButton
          class="small"
          @click="store.run('releaseFigure', { figureId: figure.id, from: 'derivedFrom' })"
        >
          Stand alone
        </ActButton>
      </p>
    </section>
    <section v-if="content.notes.length && !followed">
      <h2 class="small-head">A second line</h2>
      <p class="other row">
        <select v-model.number="size" aria-label="Interval" data-test="harmony-size">
          <option v-for="[value, name] in SIZES" :key="value" :value="value">{{ name }}</option></select
        ><select v-model="side" aria-label="Above or below">
          <option>above</option>
          <option>below</option></select
        ><select v-model="kind" aria-label="In the key or parallel">
          <option value="diatonic">in the key</option>
          <option value="parallel">parallel</option>
        </select>
      </p>
      <p v-if="kind === 'diatonic'" class="other row">
        <select
          :value="shownKey.tonic"
          aria-label="Tonic"
          @change="setKey({ tonic: ($event.target as HTMLSelectElement).value })"
        >
          <option v-for="tonic in TONICS" :key="tonic" :value="tonic">{{ pretty(tonic) }}</option></select
        ><select
          :value="key.mode"
          aria-label="Mode"
          @change="setKey({ mode: ($event.target as HTMLSelectElement).value as Mode })"
        >
          <option v-for="mode in MODES" :key="mode">{{ mode }}</option>
        </select>
      </p>
      <p class="other row">
        for
        <select v-model="target" aria-label="Played by">
          <option v-for="player in store.parts" :key="player.id" :value="player.id">
            {{ player.name }}
          </option></select
        ><ActButton class="small" data-test="make-harmony" @click="make">Show it</ActButton>
      </p>
      <p v-if="problem" class="attention other" role="alert">{{ problem }}</p>
      <template v-if="made">
        <p v-if="!made.clashes.length" class="other quiet">No clash with the chords.</p>
        <ul class="other" data-test="clashes">
          <li v-for="clash in made.clashes" :key="clash.startTicks" class="evidence">
            {{ place(clash.startTicks) }}: {{ pretty(nameOf(clash.pitchClass)) }} rubs against
            {{ pretty(nameOf(clash.against)) }} of {{ store.showSymbol(clash.symbol) }}
            <ActButton v-if="clash.betterStep !== undefined" class="small" @click="except(clash)">
              leave the rule here
            </ActButton>
          </li>
          <li v-for="remark in made.remarks" :key="`r${remark.startTicks}`" class="quiet">
            {{ place(remark.startTicks) }}: {{ remark.text }}
          </li>
          <li v-for="exception in exceptions" :key="`e${exception.startTicks}`" class="quiet">
            {{ place(exception.startTicks) }}: {{ intervalWords(exception.semitones) }} on purpose
          </li>
        </ul>
        <p class="other row">
          <ActButton class="small" data-test="keep-harmony" @click="keep">Keep it, linked</ActButton
          ><ActButton class="small" @click="emit('hear', { ...content, notes: made.notes })">
            Hear
          </ActButton>
        </p>
      </template>
    </section>
    <section v-if="content.notes.length && others.length">
      <h2 class="small-head">Check against</h2>
      <select v-model="against" class="wide" aria-label="Check this line against" data-test="check-against">
        <option value="">a first line …</option>
        <option v-for="other in others" :key="other.id" :value="other.id">
          {{ store.song?.parts[other.partId]?.name }}: {{ other.name }}
        </option>
      </select>
      <template v-if="checked"
        ><p class="other" data-test="harmony-check">{{ checked.words }}</p>
        <ul class="other">
          <li v-for="one in checked.list.slice(0, 8)" :key="one.startTicks" class="evidence">
            <button class="plain link" @click="bench.go(bench.row.value, one.startTicks)">
              {{ place(one.startTicks) }}</button>: {{ pretty(one.text) }}
          </li>
          <li v-for="exception in checked.exceptions" :key="`e${exception.startTicks}`" class="quiet">
            {{ place(exception.startTicks) }} on purpose: {{ exception.why }}
          </li>
        </ul></template
      >
    </section>
    <section v-if="mergeable.length">
      <h2 class="small-head">Two into one</h2>
      <select v-model="second" class="wide" aria-label="Take in another part" data-test="merge-with">
        <option value="">take in another part …</option>
        <option v-for="other in mergeable" :key="other.id" :value="other.id">
          {{ store.song?.parts[other.partId]?.name }}: {{ other.name }}
        </option>
      </select>
      <p v-if="mergeProblem" class="other attention">{{ mergeProblem }}</p>
      <template v-if="merged"
        ><p class="other" data-test="merged">{{ mergedWords }}</p>
        <ul v-if="merged.dropped.length" class="other quiet">
          <li v-for="group in droppedByReason(merged.dropped).slice(0, 5)" :key="group.why">
            {{ group.notes.length }} left out, {{ group.why }}: {{ placesOf(group.notes) }}
          </li>
        </ul>
        <p class="other row">
          <ActButton class="small" data-test="keep-merged" @click="keepMerged"> Keep as a figure</ActButton
          ><ActButton class="small" @click="emit('hear', merged.content)">Hear</ActButton>
        </p></template
      >
    </section>
    <section>
      <h2 class="small-head">Take over a line</h2>
      <ActButton class="small" @click="chooser?.click()">Choose a MIDI file</ActButton
      ><input
        ref="chooser"
        type="file"
        accept=".mid,.midi,audio/midi"
        hidden
        data-test="midi-file"
        @change="openMidi"
      />
      <p v-if="midiProblem" class="attention other" role="alert">{{ midiProblem }}</p>
      <template v-if="tracks.length"
        ><p class="other row">
          <select v-model.number="track" aria-label="Track" @change="adapt">
            <option v-for="(one, index) in tracks" :key="index" :value="index">
              {{ one.name }} ({{ one.notes.length }})
            </option>
          </select>
        </p>
        <NumberField
          label="from bar"
          class="other"
          :schema="barNumberSchema"
          :model-value="fromBar"
          @take="adaptFrom"
        />
        <p v-if="adapted" class="other quiet">
          {{ octaveWords(adapted.octaves) }}: {{ adapted.words
          }}{{ adapted.leftOut ? `; ${adapted.leftOut} notes left out` : '' }}.
          <ActButton class="small" data-test="keep-adapted" @click="keepAdapted">Take it</ActButton>
        </p></template
      >
    </section>
  </div>
</template>
