// Asks what the record plays in a stretch for one part: his side, the range of his strings.
import type { Part } from '#core/document/schema'
import { soundingMidi } from '#core/document/part-pitch'
import type { DraftSide } from '#core/hear/draft/side-spectra'
import type { Session } from '#platform/worker-job'
import { listeningWorker } from '~/session/workers'
import type { PlacedDraft } from '../../../workers/listening.worker'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useExcerpt } from './recordExcerpt'

const MIDDLE_PAN = 0.15

function sideOf({ pan, role }: Part): DraftSide {
  if (role === 'bass' || Math.abs(pan) < MIDDLE_PAN) return 'centre'
  return pan < 0 ? 'left' : 'right'
}

/** Notes in seconds of the recording; undefined when there is no recording or it was stopped. */
export function useDraft() {
  const excerptOf = useExcerpt()
  const hearing = useHearing()
  const store = useSong()
  let session: Session | undefined
  onScopeDispose(() => session?.close())
  void hearing.recall()

  return async (part: Part, span: { from: number; to: number }): Promise<PlacedDraft[] | undefined> => {
    const excerpt = excerptOf(span)
    if (!excerpt) return undefined
    const { channels, sampleRate, offset } = excerpt
    const open = part.tuning.openMidi.map((_, index) => soundingMidi(part, index + 1, 0))
    if (!session?.alive()) session = listeningWorker.openSession()
    const asked = session.ask<PlacedDraft[]>(
      {
        want: 'draft',
        recording: { channels, sampleRate },
        part,
        key: { ...store.spellingKey },
        wish: {
          side: sideOf(part),
          low: Math.min(...open),
          high: Math.max(...open) + part.instrument.fretCount - part.instrument.capo,
          tuningCents: hearing.analysis?.tuningCents ?? store.source?.offsetCents ?? 0,
          from: span.from - offset,
          to: span.to - offset,
        },
      },
      { transfer: channels.map((channel) => channel.buffer) },
    )
    const done = await asked.result
    if (!done.ok) return undefined
    return done.value.map((note) => ({
      ...note,
      startSeconds: note.startSeconds + offset,
      endSeconds: note.endSeconds + offset,
    }))
  }
}
