// What the record says about a doubt: a short piece of it, as the part sits there, measured in a worker.
import type { Recording } from '#core/hear/features/recording'
import type { Doubt } from '#core/document/schema'
import { nearSound, partSound } from '#core/hear/evidence/part-sound'
import { placeSeconds } from '#core/doubts/charted-note'
import type { Excerpt, Proof } from '#core/doubts/evidence'
import type { Session } from '#platform/worker-job'
import { listeningWorker } from '~/session/workers'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useRecording } from '~/session/recording'

/** So much of the record around the place is looked at too. */
const AROUND_SECONDS = 2
/** A place shorter than this is listened to a little longer. */
const SHORTEST_SECONDS = 0.12

/** The place with what is around it, as far as it is a player's. */
function cutOut(
  { channels, sampleRate }: Recording,
  { start, end }: { start: number; end: number },
  pan: number,
): Omit<Excerpt, 'tuningCents'> {
  const from = Math.max(0, Math.round((start - AROUND_SECONDS) * sampleRate))
  const to = Math.round((end + AROUND_SECONDS) * sampleRate)
  const piece = channels.map((channel) => channel.slice(from, to))
  return {
    mono: partSound(piece, pan).slice(),
    near: nearSound(piece, pan).slice(),
    sampleRate,
    start: start - from / sampleRate,
    end: end - from / sampleRate,
  }
}

/** The note that is asked about, where claims are about one. */
function askedMidi({ readings }: Doubt): number | undefined {
  const claims = readings.flatMap(({ claim }) => (claim && 'midi' in claim ? [claim] : []))
  return claims.find(({ kind }) => kind !== 'note')?.midi
}

export function useProof(doubt: () => Doubt) {
  const store = useSong()
  const recordings = useRecording()
  const hearing = useHearing()
  const proof = shallowRef<Proof>()
  const listening = ref(false)
  let session: Session | undefined
  // The tuning of the record is among what was heard.
  void hearing.recall()
  onScopeDispose(() => session?.close())

  const span = computed(() => {
    const song = store.heardSong
    if (!song) return undefined
    const found = placeSeconds(song, doubt().place, askedMidi(doubt()))
    return found && { start: found.start, end: Math.max(found.end, found.start + SHORTEST_SECONDS) }
  })

  function excerpt(): Excerpt | undefined {
    const recording = recordings.state === 'ready' ? recordings.lent() : undefined
    if (!recording || !span.value) return undefined
    const tuningCents = hearing.analysis?.tuningCents ?? store.source?.offsetCents ?? 0
    const pan = store.heardSong?.parts[doubt().place.partId ?? '']?.pan ?? 0
    return { ...cutOut(recording, span.value, pan), tuningCents }
  }

  const told = computed(() => [doubt().readings, store.nameShift, span.value, hearing.analysis])
  watch(
    [told, () => recordings.state],
    async () => {
      const piece = excerpt()
      const { song } = store
      if (!piece || !song) {
        proof.value = undefined
        return
      }
      if (!session?.alive()) session = listeningWorker.openSession()
      listening.value = true
      const { place, readings } = doubt()
      const asked = session.ask<Proof>(
        { want: 'proof', song, place, readings, nameShift: store.nameShift, excerpt: piece },
        { transfer: [piece.mono.buffer, piece.near.buffer] as ArrayBuffer[] },
      )
      const made = await asked.result
      listening.value = false
      if (made.ok) proof.value = made.value
    },
    { immediate: true },
  )
  return { proof, span, listening }
}
