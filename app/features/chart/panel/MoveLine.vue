<script setup lang="ts">
import { onPath, pathNotes, pitched } from '#core/neck/lines/line'
import { acrossStrings, type AcrossTo } from '#core/neck/lines/across-strings'
import { shiftFrets, shiftSemitones, toDegree } from '#core/neck/lines/move-line'
import { ratePath } from '#core/neck/lines/path'
import { withPicks } from '#core/neck/strokes'
import type { Content, Figure, NeckWish, Note } from '#core/document/schema'
import type { Result } from '#core/result'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { withLine } from './withLine'

// The line moved by frets, by sound or along the scale; fingers and picking proposed for it.
const props = defineProps<{ bench: Bench; figure: Figure; wish: NeckWish }>()
const store = useSong()
const preferences = usePreferences()
const { part, content } = props.bench
const notes = computed(() => pitched(content.value))
const withNotes = (next: readonly Note[]): Content => withLine(content.value, next)
const DEGREES = [1, 2, 3, 4, 5, 6, 7].map((degree) => ({ title: String(degree), value: degree }))
function apply(what: string, result: Result<Note[]> | Result<Content>): void {
  if (!result.ok) {
    store.notice = { text: result.refusal.message, kind: 'refusal' }
    return
  }
  props.bench.edit(what, Array.isArray(result.value) ? withNotes(result.value) : result.value)
}
const moveFrets = (by: number): void => {
  if (part.value) apply(`${by > 0 ? 'up' : 'down'} a fret`, shiftFrets(content.value, part.value, by))
}
const moveSemitones = (by: number): void => {
  if (part.value && store.song)
    apply(
      `${by > 0 ? 'up' : 'down'} a half step`,
      shiftSemitones(notes.value, { part: part.value, key: store.song.key, where: props.wish }, by),
    )
}
function moveDegree(degree: number): void {
  if (part.value && store.song && degree)
    apply(
      `start on degree ${degree}`,
      toDegree(notes.value, { part: part.value, key: store.song.key, where: props.wish }, degree),
    )
}
/** What a move across strings changed in the shape, said until the figure is another. */
const changes = ref<string[]>([])
watch(
  () => props.figure.id,
  () => {
    changes.value = []
  },
)
function moveAcross(to: AcrossTo): void {
  if (!part.value) return
  const moved = acrossStrings(notes.value, part.value, to)
  apply(`to the ${to}, a string higher`, moved.ok ? { ok: true, value: moved.value.notes } : moved)
  changes.value = moved.ok ? moved.value.changes : []
}
function fingers(): void {
  if (!part.value) return
  const path = ratePath(pathNotes(notes.value, part.value), notes.value, part.value, preferences.hand)
  if (path)
    props.bench.edit(
      'fingers: shortest hand travel',
      withNotes(onPath(notes.value, { ...path, brokenSlurs: [] }, true)),
    )
}
function picks(): void {
  const school = props.figure.school ?? 'pendulum'
  props.bench.edit(`pick directions, ${school}`, {
    ...content.value,
    notes: withPicks(content.value.notes, school, {
      meter: props.figure.meter,
      subdivision: props.figure.feel.subdivision,
    }),
  })
}
</script>

<template>
  <div class="panel">
    <section>
      <h2 class="small-head">Move the line</h2>
      <p class="other row">
        <ActButton class="small" @click="moveFrets(-1)">− fret</ActButton
        ><ActButton class="small" @click="moveFrets(1)">+ fret</ActButton
        ><ActButton class="small" @click="moveSemitones(-1)">− ½ step</ActButton
        ><ActButton class="small" @click="moveSemitones(1)">+ ½ step</ActButton>
      </p>
      <p class="other row">
        <MenuButton label="start on degree" :items="DEGREES" @choose="moveDegree" />
        <ActButton class="small" data-test="to-fourth" @click="moveAcross('fourth')">
          to the fourth, a string higher
        </ActButton>
        <ActButton class="small" @click="moveAcross('fifth')">to the fifth</ActButton>
      </p>
      <p v-for="change in changes" :key="change" class="other evidence" role="status">{{ change }}</p>
    </section>
    <section>
      <h2 class="small-head">Hands</h2>
      <p class="other row">
        <ActButton class="small" @click="fingers">Propose fingers</ActButton
        ><ActButton class="small" @click="picks">Propose picking</ActButton>
      </p>
    </section>
  </div>
</template>
