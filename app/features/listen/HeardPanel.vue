<script setup lang="ts">
import { isSwung, sideWords, tuningWords, type SuggestionKind } from '#core/review/heard'
import { nameSections } from '#core/review/section-names'
import { labelSymbol } from '#core/listen/decode/chord-labels'
import { keyName, transposeKey } from '#core/music/pitch'
import { clock } from '#core/time/beat-grid'
import { meterName } from '#core/time/meter'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

// What the computer heard: facts with their reasons, what is open to accept, and the chosen bar with its
// rivals.
const props = defineProps<{
  bar: { barIndex: number; startSeconds: number; endSeconds: number; sectionId: string } | undefined
}>()
const emit = defineEmits<{ acceptLine: []; count: [bpm: number] }>()
const hearing = useHearing()
const song = useSong()
const transport = useTransport()
type Why = 'tempo' | 'tuning' | 'form' | 'chord'
const percent = (share: number): string => `${Math.round(share * 100)} %`

/** One row a kind: what was heard, how sure, whether it is still open. */
const rows = computed(() => {
  const a = hearing.analysis
  if (!a) return []
  const open = new Map(hearing.suggestions.map((suggestion) => [suggestion.kind, suggestion]))
  const list: {
    kind: SuggestionKind
    picture: Why | undefined
    text: string
    sure: number | undefined
    because: string
  }[] = []
  const add = (
    kind: SuggestionKind,
    picture: Why | undefined,
    text: string | undefined,
    sure: number | undefined,
    because: string,
  ): void => {
    const suggestion = open.get(kind)
    if (suggestion || text)
      list.push({
        kind,
        picture,
        text: suggestion?.text ?? text!,
        sure: suggestion?.confidence ?? sure,
        because: suggestion?.why ?? because,
      })
  }
  add(
    'bars',
    'tempo',
    a.tempo ? `♩ = ${a.tempo.toFixed(1)}${a.meter ? `, ${meterName(a.meter)}` : ''}` : undefined,
    a.tempoRivals?.[0]?.share,
    'Attacks that return evenly.',
  )
  add(
    'sections',
    'form',
    a.sections?.length
      ? `${a.sections.length}, ${new Set(a.sections.map((section) => section.label)).size} of them different`
      : undefined,
    undefined,
    'Sound, drums and harmony change there.',
  )
  add(
    'chords',
    'chord',
    a.chords?.length ? `${a.chords.length} changes` : undefined,
    undefined,
    'The pitches of each half beat against the tones of each chord.',
  )
  add(
    'key',
    undefined,
    a.key ? `${keyName(a.key)}, sounding` : undefined,
    a.keyConfidence,
    'Which chords last longest, begin and end.',
  )
  add(
    'feel',
    undefined,
    isSwung(a) ? `swung ${percent(a.swing!)}` : undefined,
    undefined,
    'Where attacks fall between the beats.',
  )
  add('tuning', 'tuning', tuningWords(a), a.tuningConfidence, 'Where the peaks of the spectrum lie.')
  const drift = a.tuningOverTime ?? []
  const moved = drift.length > 3 ? drift.at(-1)!.cents - drift[0]!.cents : 0
  const tuningRow = list.find((row) => row.kind === 'tuning')
  if (tuningRow && Math.abs(moved) > 5)
    tuningRow.because += ` From beginning to end it moves by ${Math.round(moved)} cents: the tape ${moved < 0 ? 'slows' : 'speeds up'}.`
  return list.map((row) => ({ ...row, open: open.has(row.kind) }))
})
const whyKind = ref<SuggestionKind>()
const rivals = computed(() => (hearing.analysis?.tempoRivals ?? []).slice(0, 4))
const free = computed(() =>
  (hearing.analysis?.stretches ?? []).filter((stretch) => stretch.end - stretch.start > 3).slice(0, 4),
)
const sides = computed(() => (hearing.analysis ? sideWords(hearing.analysis) : []))
/** Index of the chosen bar among the bars heard. */
const heardBar = computed(() => {
  const [a, bar] = [hearing.analysis, props.bar]
  const index = a && bar ? a.downbeats.findIndex((one) => Math.abs(one - bar.startSeconds) < 0.2) : -1
  return index === -1 ? undefined : index
})
const chords = computed(() => {
  const [a, bar] = [hearing.analysis, props.bar]
  if (!a?.chords || !bar) return []
  return a.chords
    .filter((chord) => chord.end > bar.startSeconds + 0.06 && chord.start < bar.endSeconds - 0.06)
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
const sectionWords = computed(() => {
  const found = section.value
  if (!found) return []
  const words: string[] = []
  const named = nameSections(hearing.analysis!.sections!)[hearing.analysis!.sections!.indexOf(found)]
  if (named) words.push(`${named.name}: ${named.why}`)
  if (found.pattern)
    words.push(
      `${found.pattern.bars} ${found.pattern.bars === 1 ? 'bar' : 'bars'} × ${found.pattern.times}${found.pattern.differs.length ? `, ${found.pattern.differs.map((time) => (time === found.pattern!.times - 1 ? 'last' : `no. ${time + 1}`)).join(' and ')} differs` : ''}`,
    )
  if (found.key)
    words.push(
      `${keyName(transposeKey(found.key, song.nameShift))}${found.flavour ? `, ${found.flavour}` : ''}`,
    )
  if (found.grouping) words.push(`accents in ${found.grouping}`)
  if (found.returns)
    words.push(
      `like the section at ${clock(hearing.analysis!.sections![found.returns.section]?.start ?? 0)}: ${percent(found.returns.likeness)}${found.returns.shift ? `, ${found.returns.shift > 0 ? '+' : ''}${found.returns.shift} semitones` : ''}${found.returns.differs.length ? `, differs in bar ${found.returns.differs.map((bar) => bar + 1).join(', ')}` : ''}`,
    )
  const side = heardBar.value === undefined ? undefined : hearing.analysis?.activity?.[heardBar.value]
  if (side !== undefined)
    words.push(
      `plays: ${
        [
          ['l', 'left'],
          ['c', 'centre'],
          ['r', 'right'],
          ['b', 'low'],
        ]
          .filter(([letter]) => side.includes(letter!))
          .map(([, word]) => word)
          .join(', ') || 'nobody'
      }`,
    )
  return words
})
const shown = (label: string): string => (label === 'N' ? 'no chord' : song.showSymbol(labelSymbol(label)))
const hear = (label: string, from: number, to: number): void =>
  transport.hearCandidate(labelSymbol(label), from, Math.max(to, from + 0.6))
const isHeard = (label: string, from: number): boolean =>
  transport.playing &&
  transport.scope.kind === 'candidate' &&
  transport.scope.symbol === labelSymbol(label) &&
  transport.scope.startSeconds === from
</script>

<template>
  <aside class="heard" aria-label="What is heard">
    <h2>What is heard</h2>
    <p v-if="hearing.problem" class="evidence" role="status" data-test="hearing-problem">
      {{ hearing.problem }}
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
          <button
            class="plain link why-link"
            :aria-expanded="whyKind === row.kind"
            :aria-label="`Why these ${row.kind}?`"
            @click="whyKind = whyKind === row.kind ? undefined : row.kind"
          >
            why?
          </button></span
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
          <WhyPicture
            v-if="row.picture && hearing.analysis"
            :analysis="hearing.analysis"
            :kind="row.picture"
            :bar="heardBar ?? (row.picture === 'chord' ? 0 : undefined)"
            :label="chords[0]?.label"
          />
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
    <p v-for="words in sides" :key="words" class="quiet stretch">{{ words }}</p>
    <p v-for="stretch in free" :key="stretch.start" class="quiet stretch">
      {{ stretch.kind === 'free' ? 'no pulse' : 'nobody drums' }} {{ clock(stretch.start) }}–{{
        clock(stretch.end)
      }}
    </p>

    <section v-if="bar && chords.length" class="bar" data-test="heard-bar">
      <h3>
        Bar {{ bar.barIndex + 1 }}&ensp;<span class="quiet mono">{{ clock(bar.startSeconds, 1) }}</span>
      </h3>
      <div v-for="chord in chords" :key="chord.start" class="chord">
        <div class="names">
          <ActButton
            v-for="rival in (chord.rivals.length
              ? chord.rivals
              : [{ label: chord.label, share: chord.confidence }]
            ).slice(0, 3)"
            :key="rival.label"
            :disabled="rival.label === 'N'"
            :aria-pressed="isHeard(rival.label, chord.from)"
            :title="`Hear ${shown(rival.label)} against the record`"
            @click="hear(rival.label, chord.from, chord.to)"
          >
            <b>{{ shown(rival.label) }}</b> <span class="mono quiet">{{ rival.share.toFixed(2) }}</span>
          </ActButton>
        </div>
      </div>
      <p v-for="words in sectionWords" :key="words" class="quiet words">{{ words }}</p>
    </section>
    <p v-else-if="hearing.analysis && hearing.analysis.beats.length" class="quiet">
      Click a bar: its chords, their rivals, and how they sound against the record.
    </p>
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
  padding: 4px 0 16px 16px;
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
.link {
  justify-self: start;
}
</style>
