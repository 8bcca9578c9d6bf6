// Lines of one guitar, drawn at random: what evidence and drafts are measured on.
import type { SoundingEvent } from '../../core/score/sounding-event'

/**
 * A line of single notes with everything that is asked about: picked and slurred, bent by so many semitones,
 * muted and ringing. Drawn anew for each sound.
 */
export function drawnLine(
  sound: SoundingEvent['sound'],
  seconds: number,
  random: () => number,
): SoundingEvent[] {
  const scale = [55, 58, 60, 62, 65, 67, 70, 72, 74, 77]
  const events: SoundingEvent[] = []
  let [at, degree] = [0.5, 4]
  while (at < seconds - 2) {
    const length = [0.25, 0.25, 0.5, 0.5, 0.75][Math.floor(random() * 5)]!
    degree = Math.max(0, Math.min(scale.length - 1, degree + [-2, -1, 1, 2][Math.floor(random() * 4)]!))
    const kind = random()
    const bent = kind > 0.85 && length >= 0.5
    const muted = kind > 0.6 && kind <= 0.85
    const semitones = 1 + Math.floor(random() * 3)
    // A slur begins on a string that sounds.
    const before = events.at(-1)
    const slurred =
      kind < 0.45 && before !== undefined && before.palmMute === undefined && !before.curve.length
    events.push({
      string: 2,
      startSeconds: at + 0.012 * (random() - 0.5),
      endSeconds: at + length,
      midi: scale[degree]!,
      curve: bent
        ? [
            { seconds: 0, semitones: 0 },
            { seconds: 0.18, semitones },
          ]
        : [],
      // As the chart sounds: what is not picked is softer.
      loudness: (slurred ? 0.55 : 0.72) * (0.88 + 0.24 * random()),
      sound,
      slurred,
      dead: false,
      harmonic: false,
      vibrato: 'none',
      releaseSeconds: 0.09,
      ...(muted ? { palmMute: 'firm' as const } : {}),
    })
    at += length
  }
  return events
}
