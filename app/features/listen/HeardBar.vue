<script setup lang="ts">
import type { Analysis } from '#core/hear/analysis'
import { labelSymbol } from '#core/hear/decode/chord-labels'
import { clock } from '#core/time/beat-grid'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

// The chosen bar: its chords with their rivals, to be heard against the record, and what its section is.
defineProps<{
  bar: { barIndex: number; startSeconds: number }
  chords: readonly (NonNullable<Analysis['chords']>[number] & { from: number; to: number })[]
  words: readonly string[]
}>()
const song = useSong()
const transport = useTransport()
/** A chord shorter than this is heard a little longer, seconds. */
const SHORTEST = 0.6
type Chord = NonNullable<Analysis['chords']>[number] & { from: number; to: number }
const rivalsOf = (chord: Chord) =>
  (chord.rivals.length ? chord.rivals : [{ label: chord.label, share: chord.confidence }]).slice(0, 3)
const shown = (label: string): string => (label === 'N' ? 'no chord' : song.showSymbol(labelSymbol(label)))
const hear = (label: string, { from, to }: Chord): void =>
  transport.hearCandidate(labelSymbol(label), from, Math.max(to, from + SHORTEST))
const isHeard = (label: string, from: number): boolean =>
  transport.playing &&
  transport.scope.kind === 'candidate' &&
  transport.scope.symbol === labelSymbol(label) &&
  transport.scope.startSeconds === from
</script>

<template>
  <section class="bar" data-test="heard-bar">
    <h3>
      Bar {{ bar.barIndex + 1 }}&ensp;<span class="quiet mono">{{ clock(bar.startSeconds, 1) }}</span>
    </h3>
    <div v-for="chord in chords" :key="chord.start" class="names">
      <ActButton
        v-for="rival in rivalsOf(chord)"
        :key="rival.label"
        :disabled="rival.label === 'N'"
        :aria-pressed="isHeard(rival.label, chord.from)"
        :title="`Hear ${shown(rival.label)} against the record`"
        @click="hear(rival.label, chord)"
      >
        <b>{{ shown(rival.label) }}</b> <span class="mono quiet">{{ rival.share.toFixed(2) }}</span>
      </ActButton>
    </div>
    <p v-for="sentence in words" :key="sentence" class="quiet words">{{ sentence }}</p>
  </section>
</template>

<style scoped>
.bar {
  display: grid;
  gap: 6px;
  border-top: 1px solid var(--rule);
  padding-top: 10px;
}
.names {
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
}
.words {
  font-size: 13.5px;
  line-height: 1.25;
}
</style>
