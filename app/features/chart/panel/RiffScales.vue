<script setup lang="ts">
import { riffScales } from '#core/explore/riff-scales'
import { degreeAbove } from '#core/music/scale'
import { pitchClassOf, pretty } from '#core/music/pitch'
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'

// The riffs of the song side by side on its root: which tones each of them uses.
const props = defineProps<{ figure: Figure }>()
const store = useSong()
const all = computed(() => (store.song ? riffScales(store.song) : undefined))
const semitones = Array.from({ length: 12 }, (_, semitone) => semitone)
const degree = (semitone: number): string => (semitone === 0 ? 'R' : pretty(degreeAbove(semitone, 0)))
</script>

<template>
  <section v-if="all && all.riffs.length > 1">
    <h2 class="small-head">All riffs on {{ store.toneName(pitchClassOf(all.root)) }}</h2>
    <table class="riffs" data-test="riff-scales">
      <caption class="visually-hidden">
        Degrees each riff uses
      </caption>
      <tbody>
        <tr
          v-for="riff in all.riffs"
          :key="riff.figureId"
          :class="{ here: riff.figureId === props.figure.id }"
        >
          <th scope="row">
            {{ riff.name }}
            <span class="quiet"
              >{{ store.toneName(pitchClassOf(riff.scale.tonic)) }} {{ riff.scale.name }}</span
            >
            <span class="tones">
              <i
                v-for="semitone in semitones"
                :key="semitone"
                :class="{ on: riff.degrees.includes(semitone), shared: all.shared.includes(semitone) }"
                >{{ riff.degrees.includes(semitone) ? degree(semitone) : '' }}</i
              >
            </span>
          </th>
        </tr>
      </tbody>
    </table>
    <p class="other quiet">
      {{
        all.shared.length
          ? `Shared by all: ${all.shared.map(degree).join(', ')}.`
          : 'No tone is in all of them.'
      }}
    </p>
  </section>
</template>

<style scoped>
.riffs {
  width: 100%;
  border-collapse: collapse;
  font-size: 13px;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 3px 0;
  border-top: 1px solid var(--rule);
}
.here th {
  font-weight: 700;
}
.tones {
  display: grid;
  grid-template-columns: repeat(12, 1fr);
  margin-top: 2px;
}
i {
  font: 11px/15px var(--face-mono);
  text-align: center;
  height: 16px;
  border: 1px solid var(--rule);
}
i.on {
  background: var(--quiet);
  color: var(--page);
}
i.shared {
  background: var(--action);
}
</style>
