// Which samples a song needs: one event of each sound, pitch and loudness, before any of them is played.
import { soundFigure } from '../score/sound-song'
import type { SoundingEvent } from '../score/sounding-event'
import type { Song } from '../document/schema'

/** One event of each kind, figure by figure, as far as it is asked for. */
export function* soundsOf(song: Song): Generator<SoundingEvent> {
  const known = new Set<string>()
  for (const figure of Object.values(song.figures))
    for (const event of soundFigure(song, figure, { startTicks: 0, toSeconds: (tick) => tick / 10080 })) {
      const loudness = Math.round(event.loudness * 8)
      const kind = `${event.sound}/${Math.round(event.midi)}/${loudness}/${event.harmonic}`
      if (known.has(kind)) continue
      known.add(kind)
      yield { ...event, curve: [] }
    }
}
