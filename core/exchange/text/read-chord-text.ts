// Chords as plain text brought in as the form of a new song.
import { barTicks, MOST_BARS, STRAIGHT, type Meter } from '../../time/meter'
import { ok, refuse, type Result } from '../../result'
import {
  chordsInBar,
  dropped,
  heldOn,
  type Dropped,
  type WrittenBar,
  type WrittenHarmony,
  type WrittenScore,
} from '../score/written-score'
import { readWrittenChart } from './written-chart'

const MOST_CHARACTERS = 200_000

/** Lines of chords under headings, all bars of one meter. */
export function readChordText(
  text: string,
  meter: Meter,
): Result<{ score: WrittenScore; dropped: Dropped[] }> {
  if (text.length > MOST_CHARACTERS)
    return refuse('chords', 'This text is too long for the chords of a song.')
  const { sections, problems } = readWrittenChart(text)
  const written = sections.filter(({ bars }) => bars.length > 0)
  const count = written.reduce((sum, { bars }) => sum + bars.length, 0)
  if (!count)
    return refuse('chords', 'No line of chords was found: "Verse 1:" and under it "| Am | F | C | G |".')
  if (count > MOST_BARS) return refuse('chords', `This text has more than ${MOST_BARS} bars.`)
  const lengthTicks = barTicks(meter)
  const bars: WrittenBar[] = []
  const harmony: WrittenHarmony[] = []
  for (const { name, bars: chords } of written)
    for (const [index, symbols] of chords.entries()) {
      const startTicks = bars.length * lengthTicks
      const section = index === 0 ? { section: (name || 'Whole song').slice(0, 80) } : {}
      bars.push({ startTicks, lengthTicks, meter, free: false, ...section })
      harmony.push(...chordsInBar({ startTicks, lengthTicks, meter }, symbols))
    }
  const score: WrittenScore = {
    title: 'Chords brought in',
    artist: '',
    key: { tonic: 'C', mode: 'major' },
    keyUnknown: true,
    feel: { subdivision: 'eighths', swing: STRAIGHT },
    bars,
    harmony: heldOn(harmony, bars),
    tempo: [],
    parts: [],
    endTicks: bars.length * lengthTicks,
  }
  return ok({
    score,
    dropped: dropped([{ what: 'lines', count: problems.length, why: problems.slice(0, 3).join(' ') }]),
  })
}
