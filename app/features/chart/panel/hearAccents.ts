// Accents of the band listened for where a figure is first played.
import type { Accent } from '#core/hear/draft/accents'
import { secondsToTicks, ticksToSeconds } from '#core/time/beat-grid'
import type { Figure } from '#core/document/schema'
import type { Session } from '#platform/worker-job'
import { listeningWorker } from '~/session/workers'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'
import { useTransport } from '~/stores/transport'
import type { ListeningTask } from '~/workers/listening.worker'
import { useExcerpt } from './recordExcerpt'

export type Heard = 'kick' | 'left' | 'right'
export interface HeardAccent {
  tick: number
  strength: number
}

export function useHeardAccents(figure: () => Figure, step: () => number) {
  const store = useSong()
  const transport = useTransport()
  const recording = useRecording()
  const excerptOf = useExcerpt()
  let session: Session | undefined
  onScopeDispose(() => session?.close())
  const place = computed(() => transport.figurePlace(figure().id))
  const canListen = computed(() => Boolean(place.value?.placed) && recording.state === 'ready')
  const listening = ref(false)

  /** Undefined when there is nothing to listen to, or another figure is looked at by now. */
  async function listen(what: Heard): Promise<HeardAccent[] | undefined> {
    const { map } = store
    if (!map || !place.value) return undefined
    const { startTicks, lengthTicks } = place.value
    const asked = figure().id
    const excerpt = excerptOf({
      from: ticksToSeconds(map, Math.max(0, startTicks)),
      to: ticksToSeconds(map, Math.min(map.endTicks, startTicks + lengthTicks)),
    })
    if (!excerpt) return undefined
    listening.value = true
    const { channels, sampleRate, offset } = excerpt
    const recording = { channels, sampleRate }
    const task: ListeningTask =
      what === 'kick' ? { want: 'kick', recording } : { want: 'accents', recording, side: what }
    if (!session?.alive()) session = listeningWorker.openSession()
    const found = await session.ask<Accent[]>(task, { transfer: channels.map(({ buffer }) => buffer) }).result
    listening.value = false
    if (!found.ok || figure().id !== asked) return undefined
    const onStep = (seconds: number): number =>
      Math.round((secondsToTicks(map, seconds + offset) - startTicks) / step()) * step()
    const loudest = new Map<number, number>()
    for (const { seconds, strength } of found.value) {
      const tick = onStep(seconds)
      if (tick >= 0 && tick < figure().lengthTicks)
        loudest.set(tick, Math.max(strength, loudest.get(tick) ?? 0))
    }
    return [...loudest].map(([tick, strength]) => ({ tick, strength }))
  }
  return { canListen, listening, listen }
}
