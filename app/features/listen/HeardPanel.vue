<script setup lang="ts">
import type { SuggestionKind } from '#core/suggest/heard'
import { clock } from '#core/time/beat-grid'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import type { ChordWork } from './chordWork'
import type { CountReadings } from './countReadings'
import { heardRows, percent } from './heardRows'
import { sectionWords } from './heardSection'

// What the computer heard: facts with their reasons, what is open to accept, and the chosen bar with its
// rivals.
const props = defineProps<{
  bar: { barIndex: number; startSeconds: number; endSeconds: number; sectionId: string } | undefined
  chords: ChordWork
  readings: CountReadings
}>()
const emit = defineEmits<{ acceptLine: []; count: [bpm: number]; inside: [] }>()
const inHand = ref<{ focus: () => void }>()
defineExpose({ nameChord: () => inHand.value?.focus() })
const hearing = useHearing()
const song = useSong()
/** A bar drawn is the bar heard when their beginnings lie closer than this, seconds. */
const SAME_BAR = 0.2
/** A chord that reaches less than this into a bar is not of the bar, seconds. */
const TOUCH = 0.06

const rows = computed(() =>
  hearing.analysis && !hearing.progress ? heardRows(hearing.analysis, hearing.suggestions) : [],
)
const whyKind = ref<SuggestionKind>()
const rivals = computed(() => (hearing.analysis?.tempoRivals ?? []).slice(0, 4))
const free = computed(() =>
  (hearing.analysis?.stretches ?? []).filter((stretch) => stretch.end - stretch.start > 3).slice(0, 4),
)
/** Index of the chosen bar among the bars heard. */
const heardBar = computed(() => {
  const { bar } = props
  const index = bar
    ? hearing.analysis?.downbeats.findIndex((one) => Math.abs(one - bar.startSeconds) < SAME_BAR)
    : -1
  return index === -1 ? undefined : index
})
const heardChords = computed(() => {
  const [a, bar] = [hearing.analysis, props.bar]
  if (!a?.chords || !bar) return []
  return a.chords
    .filter((chord) => chord.end > bar.startSeconds + TOUCH && chord.start < bar.endSeconds - TOUCH)
    .slice(0, 4)
    .map((chord) => ({
      ...chord,
      from: Math.max(chord.start, bar.startSeconds),
      to: Math.min(chord.end, bar.endSeconds),
    }))
})
const section = computed(() => {
  const [a, bar] = [hearing.analysis, props.bar]
  return (
    bar &&
    (a?.sections?.find(
      (entry) => bar.startSeconds >= entry.start - 0.1 && bar.startSeconds < entry.end - 0.1,
    ) ??
      a?.sections?.[0])
  )
})
const barWords = computed(() =>
  hearing.analysis && section.value
    ? sectionWords(hearing.analysis, section.value, { bar: heardBar.value, nameShift: song.nameShift })
    : [],
)
</script>

<template>
  <aside class="heard" aria-label="What is heard">
    <ChordInHand ref="inHand" :work="chords" />
    <h2>What is heard</h2>
    <p v-if="hearing.problem" class="evidence" role="status" data-test="hearing-problem">
      {{ hearing.problem }}
    </p>
    <p v-if="hearing.progress" class="quiet" role="status">
      Listening: what is heard is drawn as it comes; it can be accepted when all of it is there.
    </p>
    <p v-if="!hearing.analysis && !hearing.progress && !hearing.problem" class="quiet">
      Nothing yet. <b>Listen</b> measures beats, tuning, chords and form; you decide what of it stays.
    </p>

    <ul v-if="rows.length" data-test="suggestions">
      <li v-for="row in rows" :key="row.kind" :class="{ open: row.open }">
        <span class="said"
          ><b class="kind">{{ row.kind }}</b> {{ row.text
          }}<template v-if="row.sure !== undefined">
            <span class="quiet mono sure">{{ percent(row.sure) }}</span></template
          >
          <ActButton
            kind="link"
            class="why-link"
            :aria-expanded="whyKind === row.kind"
            :aria-label="`Why these ${row.kind}?`"
            @click="whyKind = whyKind === row.kind ? undefined : row.kind"
          >
            why?
          </ActButton></span
        >
        <ActButton
          v-if="row.open"
          :disabled="Boolean(song.readOnly)"
          :aria-label="`Accept ${row.kind}`"
          :data-test="`accept-${row.kind}`"
          @click="hearing.accept([row.kind])"
        >
          Accept
        </ActButton>
        <div v-if="whyKind === row.kind" class="because">
          <p class="quiet">{{ row.because }}</p>
          <template v-if="hearing.analysis">
            <TempoPicture v-if="row.picture === 'tempo'" :analysis="hearing.analysis" />
            <TuningPicture v-else-if="row.picture === 'tuning'" :analysis="hearing.analysis" />
            <FormPicture v-else-if="row.picture === 'form'" :analysis="hearing.analysis" :bar="heardBar" />
            <ChordPicture
              v-else-if="row.picture === 'chord'"
              :analysis="hearing.analysis"
              :bar="heardBar ?? 0"
              :label="heardChords[0]?.label"
            />
          </template>
          <p v-if="row.kind === 'bars' && rivals.length > 1" class="rivals">
            or count
            <ActButton v-for="rival in rivals.slice(1)" :key="rival.bpm" @click="emit('count', rival.bpm)">
              {{ rival.bpm.toFixed(0) }} <span class="quiet mono">{{ percent(rival.share) }}</span>
            </ActButton>
          </p>
        </div>
      </li>
    </ul>
    <div v-if="hearing.suggestions.length" class="acts">
      <ActButton
        kind="main"
        :disabled="Boolean(song.readOnly)"
        data-test="accept-all"
        @click="hearing.acceptAll()"
      >
        Accept all <kbd>A</kbd>
      </ActButton>
      <ActButton
        v-if="bar && section"
        :disabled="Boolean(song.readOnly)"
        data-test="accept-line"
        @click="emit('acceptLine')"
      >
        This section <kbd>J</kbd>
      </ActButton>
    </div>
    <BandKey />
    <p v-for="stretch in free" :key="stretch.start" class="quiet stretch">
      {{ stretch.kind === 'free' ? 'no pulse' : 'nobody drums' }} {{ clock(stretch.start) }}–{{
        clock(stretch.end)
      }}
    </p>

    <ActButton
      v-if="bar && song.source?.grid && song.onMainSource"
      title="B: the loop, or this section, with its bars and key as they are; only what is not set is offered"
      data-test="hear-inside"
      :disabled="Boolean(song.readOnly) || Boolean(hearing.progress)"
      @click="emit('inside')"
    >
      Listen again inside
    </ActButton>
    <HeardBar v-if="bar && heardChords.length" :bar="bar" :chords="heardChords" :words="barWords" />
    <p v-else-if="hearing.analysis && hearing.analysis.beats.length" class="quiet">
      Click a bar: its chords, their rivals, and how they sound against the record.
    </p>
    <CountPanel v-if="song.onMainSource" :readings="readings" />
    <slot />
  </aside>
</template>

<style scoped>
.heard {
  font-size: 14.5px;
  display: grid;
  gap: 12px;
  align-content: start;
  border-left: 1px solid var(--rule);
  grid-template-columns: minmax(0, 1fr);
  padding: 4px 4px 16px 16px;
  min-width: 0;
}
ul {
  list-style: none;
  padding: 0;
  display: grid;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 8px;
  align-items: start;
  padding: 5px 0;
  border-bottom: 1px solid var(--rule);
  line-height: 1.3;
}
.open .kind {
  color: var(--evidence);
}
.because {
  grid-column: 1 / -1;
  display: grid;
  gap: 6px;
  padding: 4px 0;
  font-size: 13.5px;
  line-height: 1.3;
}
.sure {
  font-size: 12.5px;
  white-space: nowrap;
  margin-left: 5px;
}
.why-link {
  font-size: 13px;
  white-space: nowrap;
  margin-left: 6px;
}
.acts {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
.main-button kbd {
  background: transparent;
  border-color: currentColor;
}
.rivals {
  display: flex;
  gap: 6px;
  flex-wrap: wrap;
  align-items: center;
}
.stretch {
  font-size: 13.5px;
  margin-top: -6px;
}
.link {
  justify-self: start;
}
</style>
