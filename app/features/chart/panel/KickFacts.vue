<script setup lang="ts">
import { kickAndBass, kickAndBassWords } from '#core/review/kick-and-bass'
import type { KickAccent } from '#core/listen/draft/kick'
import { secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import { EMPTY_CONTENT, type Figure } from '#core/document/schema'
import { openSession, type Session } from '#platform/worker-job'
import { analysisWorker } from '~/composables/songFiles'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { Beside } from '../beside'
import type { Bench } from '../benchKeys'
import { useExcerpt } from './recordExcerpt'

// What the kick drum does where this bass figure is first played: drawn under it, and the bass held against
// it.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ beside: [what: Beside | undefined] }>()
const store = useSong()
const transport = useTransport()
const excerptOf = useExcerpt()
const { content, step } = props.bench
let session: Session | undefined
onScopeDispose(() => session?.close())
const place = computed(() => transport.figurePlace(props.figure.id))
const canListen = computed(() => Boolean(place.value?.placed) && transport.recordingState === 'ready')
const kick = shallowRef<{ tick: number; strength: number }[]>()
const listening = ref(false)
watch(
  () => props.figure.id,
  () => {
    kick.value = undefined
  },
)
/** Strong ones are accented. */
const STRONG = 0.7

async function listen(): Promise<void> {
  const { map } = store
  if (!map || !place.value) return
  const { startTicks, lengthTicks } = place.value
  const asked = props.figure.id
  const excerpt = excerptOf({
    from: ticksToSeconds(map, Math.max(0, startTicks)),
    to: ticksToSeconds(map, Math.min(map.endTicks, startTicks + lengthTicks)),
  })
  if (!excerpt) return
  listening.value = true
  const { channels, sampleRate, offset } = excerpt
  if (!session?.alive()) session = openSession(analysisWorker)
  const found = await session.ask<KickAccent[]>(
    { want: 'kick', recording: { channels, sampleRate } },
    { transfer: channels.map((channel) => channel.buffer) },
  ).result
  listening.value = false
  if (!found.ok || props.figure.id !== asked) return
  const accents = found.value.map(({ seconds, strength }) => ({
    tick: Math.round((secondsToTicks(map, seconds + offset) - startTicks) / step.value) * step.value,
    strength,
  }))
  kick.value = accents.filter(({ tick }) => tick >= 0 && tick < props.figure.lengthTicks)
  show()
}
function show(): void {
  emit('beside', {
    title: 'Kick drum, as heard',
    content: {
      ...EMPTY_CONTENT,
      notes: (kick.value ?? []).map(({ tick, strength }, index) => ({
        id: `kick${index}`,
        string: props.bench.strings.value,
        fret: 0,
        startTicks: tick,
        lengthTicks: step.value,
        articulations: [{ kind: 'dead' }],
        ...(strength > STRONG ? { accent: true } : {}),
      })),
    },
  })
}
const words = computed(() => {
  if (!kick.value) return ''
  const bass = [...content.value.notes, ...content.value.strokes].map(({ startTicks }) => startTicks)
  const ticks = kick.value.map(({ tick }) => tick)
  return kickAndBassWords(kickAndBass(ticks, bass, step.value), props.figure.meter)
})
onBeforeUnmount(() => emit('beside', undefined))
</script>

<template>
  <section data-test="kick">
    <h2 class="small-head">Against the kick drum</h2>
    <p v-if="!canListen" class="other quiet">
      Place the figure in the map, with the recording on this machine: then the kick can be listened to.
    </p>
    <ActButton v-else class="small" :disabled="listening" data-test="hear-kick" @click="listen">
      {{ listening ? 'Listening …' : 'What does the kick do here?' }}
    </ActButton>
    <template v-if="kick">
      <p class="other" data-test="kick-words">{{ words }}</p>
      <p class="other quiet">
        Heard where the low end jumps: a bass note struck hard alone can look like one.
      </p>
    </template>
  </section>
</template>
