<script setup lang="ts">
import { engraveNeck, neckPlace, type NeckDot } from '#core/engrave/neck'
import { fingeringWords } from '#core/neck/grips/fingering'
import { gripAt, setGrip } from '#core/document/figure-edit'
import type { Fretted } from '#core/timeline/sounding-now'
import type { Content, Figure, Note } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useElementWidth } from '~/composables/elementWidth'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from './benchKeys'
import { neckShown } from './neckShown'

const props = defineProps<{
  bench: Bench
  figure: Figure
  draft: Partial<Content> | undefined
  /** What sounds and what comes next, while it plays. */
  fretted: Fretted | undefined
}>()
const store = useSong()
const preferences = usePreferences()
const { row, tick, part, content: shown } = props.bench
const board = ref<HTMLElement>()
const width = useElementWidth(board)
// The neck shows what is fretted at the cursor and takes fretting.
const gripHere = computed(() => gripAt(shown.value, tick.value))
const onGrip = computed(() => row.value === 'grips' || row.value === 'hand')
const soundingDots = ({ now, next }: Fretted): NeckDot[] => {
  const dot =
    (role: NeckDot['role']) =>
    (note: Note): NeckDot => ({
      string: note.string,
      fret: note.fret,
      label: note.finger ?? '',
      role,
    })
  const taken = new Set(now.map((note) => `${note.string}/${note.fret}`))
  const coming = next.filter((note) => !taken.has(`${note.string}/${note.fret}`))
  return [...coming.map(dot('quiet')), ...now.map(dot('action'))]
}
const dots = computed<NeckDot[]>(() => {
  if (props.fretted && (props.fretted.now.length || props.fretted.next.length))
    return soundingDots(props.fretted)
  if (neckShown.value.length) return [...neckShown.value]
  // A whole line lies on the neck while it is only looked at.
  if (props.draft?.notes?.length)
    return [...new Map(props.draft.notes.map((note) => [`${note.string}/${note.fret}`, note])).values()].map(
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
        strings: props.bench.strings.value,
        frets: part.value.instrument.fretCount - part.value.instrument.capo,
        capo: part.value.instrument.capo,
        width: width.value,
        leftHanded: preferences.values.leftHanded,
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
  if (!neck.value) return
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const place = neckPlace(neck.value, event.clientX - box.left, event.clientY - box.top)
  if (!place) return
  if (!onGrip.value) {
    props.bench.fret(place.string, place.fret)
    // Note after note; with Shift, notes at once.
    if (!event.shiftKey) props.bench.moveTick(1)
    return
  }
  const strings =
    gripHere.value?.grip.strings ?? Array.from({ length: props.bench.strings.value }, () => ({ fret: null }))
  const next = strings.map((string, index) =>
    index + 1 === place.string ? { fret: string.fret === place.fret ? null : place.fret } : string,
  )
  props.bench.edit(
    'fret a grip',
    setGrip(props.bench.content.value, {
      tick: gripHere.value?.startTicks ?? tick.value,
      grip: { strings: next },
      id: randomId(),
      figureTicks: props.figure.lengthTicks,
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

const neckWords = computed(() =>
  onGrip.value
    ? 'Click a fret to hold it, click again to mute the string.'
    : 'Click string and fret: the note is written and the cursor goes on a step; with Shift it stays.',
)
</script>

<template>
  <div ref="board">
    <div class="neck" data-test="neck" :title="neckWords" @click="clickNeck">
      <MusicDrawing
        v-if="neck"
        :primitives="neck.primitives"
        :width="width"
        :height="neck.height"
        :label="neckWords"
      />
    </div>
    <p v-if="handWords" class="quiet neck-words">{{ handWords }}</p>
  </div>
</template>

<style scoped>
.neck {
  cursor: pointer;
}
.neck-words {
  font-size: 13.5px;
  margin: 2px 0 0;
}
</style>
