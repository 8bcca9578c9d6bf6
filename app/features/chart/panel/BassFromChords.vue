<script setup lang="ts">
import { BASS_KINDS, type BassKind } from '#core/neck/lines/bass-line'
import type { Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'

// A bass line laid from the song's chords.
const props = defineProps<{
  bench: Bench
  figure: Figure
  chords: readonly { startTicks: number; lengthTicks: number; symbol: string }[]
}>()
const store = useSong()
const work = usePlayingWork()
const { part, content } = props.bench
const BASS_WORDS = {
  root: 'roots',
  fifth: 'root and fifth',
  octave: 'root and octave',
  walking: 'walking',
}
const BASS_ITEMS = BASS_KINDS.map((kind) => ({ title: BASS_WORDS[kind], value: kind }))
const bassKind = ref<BassKind>('root')
async function layBass(): Promise<void> {
  if (!part.value || !store.song) return
  const found = await work.ask({
    want: 'bass',
    chords: [...props.chords],
    part: part.value,
    key: { ...store.song.key },
    options: {
      kind: bassKind.value,
      stepTicks: props.bench.step.value,
      lengthTicks: props.figure.lengthTicks,
    },
  })
  if (found.ok)
    props.bench.edit(`${bassKind.value} bass from the chords`, {
      ...content.value,
      notes: found.value.map((note) => ({ ...note, id: randomId() })),
    })
  else store.notice = { text: found.refusal.message, kind: 'refusal' }
}
</script>

<template>
  <section>
    <h2 class="small-head">From the chords</h2>
    <div class="other row">
      <SelectField v-model="bassKind" inline class="grow" label="Kind of bass line" :items="BASS_ITEMS" />
      <ActButton class="small" data-test="lay-bass" @click="layBass">Lay it</ActButton>
    </div>
  </section>
</template>
