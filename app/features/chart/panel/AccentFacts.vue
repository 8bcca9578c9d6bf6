<script setup lang="ts">
import { accentsAndStrokes, accentWords } from '#core/explore/accents-and-strokes'
import { isBass } from '#core/instrument/instruments'
import { EMPTY_CONTENT, FOLLOWED, type AccentLine, type Figure } from '#core/document/schema'
import type { Beside } from '../beside'
import type { Bench } from '../benchKeys'
import { useAccentLines } from '../accentLines'
import { useHeardAccents, type Heard, type HeardAccent } from './hearAccents'

// What somebody else in the band accents where this figure is played: heard or put in by hand, drawn under
// it, and the strokes held against it.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ beside: [what: Beside | undefined] }>()
const { content, step, tick, part } = props.bench
const lines = useAccentLines(() => props.figure)
const { canListen, listening, listen } = useHeardAccents(
  () => props.figure,
  () => step.value,
)
const WHO: Record<Heard, string> = {
  kick: 'the kick',
  left: 'who stands left',
  right: 'who stands right',
}
const whoItems = Object.entries(WHO).map(([value, title]) => ({ title, value }))
const ofItems = FOLLOWED.map((of) => ({ title: of, value: of }))
const heardOf = ref<Heard>('kick')
const of = ref<AccentLine['of']>('kick')
const heard = shallowRef<{ who: Heard; accents: HeardAccent[] }>()
watch(
  () => props.figure.id,
  () => {
    heard.value = undefined
  },
)
/** Strong ones are accented. */
const STRONG = 0.7

async function hear(): Promise<void> {
  const who = heardOf.value
  const accents = await listen(who)
  if (!accents) return
  heard.value = { who, accents }
  of.value = who === 'kick' ? 'kick' : 'keys'
  emit('beside', {
    title: `Accents of ${WHO[who]}, as heard`,
    content: {
      ...EMPTY_CONTENT,
      notes: accents.map((accent, index) => ({
        id: `heard${index}`,
        string: props.bench.strings.value,
        fret: 0,
        startTicks: accent.tick,
        lengthTicks: step.value,
        marks: [{ kind: 'dead' }],
        ...(accent.strength > STRONG ? { accent: true } : {}),
      })),
    },
  })
}
const struck = computed(() =>
  [...content.value.notes, ...content.value.strokes].map(({ startTicks }) => startTicks),
)
const what = computed(() => (part.value && isBass(part.value.instrument.kind) ? 'bass strokes' : 'strokes'))
const against = (accents: readonly number[], who: string): string =>
  accentWords(accentsAndStrokes(accents, struck.value, step.value), props.figure.meter, {
    who,
    what: what.value,
  })
/** Worked out when strokes or accents change, not when the cursor moves. */
const kept = computed(() =>
  lines.all.value.map((line) => ({ line, words: against(line.at, `the ${line.of}`) })),
)
const heardTicks = computed(() => heard.value?.accents.map((accent) => accent.tick) ?? [])
const heardWords = computed(() => (heard.value ? against(heardTicks.value, WHO[heard.value.who]) : ''))
function keep(): void {
  if (lines.set(of.value, heardTicks.value)) {
    heard.value = undefined
    emit('beside', undefined)
  }
}
onBeforeUnmount(() => emit('beside', undefined))
</script>

<template>
  <section data-test="accents">
    <h2 class="small-head">Accents of the band</h2>
    <p v-for="{ line, words } in kept" :key="line.id" class="other" data-test="accent-line">
      <b>{{ line.of }}</b>{{ ` ${words} ` }}
      <ActButton kind="link" @click="lines.remove(line)">Take it away</ActButton>
    </p>
    <p class="other row">
      <SelectField v-model="of" inline label="Accent of" :items="ofItems" data-test="accent-of" />
      <ActButton class="small" data-test="accent-here" @click="lines.toggle(of, tick)">
        {{ lines.has(of, tick) ? 'No accent at the cursor' : 'Accent at the cursor' }}
      </ActButton>
    </p>
    <p v-if="!canListen" class="other quiet">
      Place the figure in the map, with the recording on this machine: then they can be listened for.
    </p>
    <p v-else class="other row">
      <SelectField v-model="heardOf" inline label="Listen for" :items="whoItems" data-test="accents-who" />
      <ActButton class="small" :disabled="listening" data-test="hear-accents" @click="hear">
        {{ listening ? 'Listening …' : 'Hear them' }}
      </ActButton>
    </p>
    <p v-if="heard && !heardTicks.length" class="other" data-test="accents-none">
      Nothing stands out of {{ WHO[heard.who] }} here: a wall of guitars is even. Put accents in by hand.
    </p>
    <template v-else-if="heard">
      <p class="other" data-test="accents-words">{{ heardWords }}</p>
      <p class="other quiet">
        {{
          heard.who === 'kick'
            ? 'Heard where the low end jumps: a bass note struck hard alone can look like one.'
            : 'Heard where a note begins on that side. A voice in the middle is put in by hand.'
        }}
      </p>
      <ActButton class="small" data-test="keep-accents" @click="keep">
        Keep as accents of the {{ of }}
      </ActButton>
    </template>
  </section>
</template>
