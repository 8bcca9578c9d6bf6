// A riff as a line of sixteenths: "m" a palm-muted stroke of the low root, "0" to "9", "a", "b" a power chord
// that many semitones above it left to ring, "." nothing new.

const OPEN = ['0', '0', '3', '5', '7', '8', 'a', '1'] as const

/** A riff of one or two bars; three against four when its cell is not as long as its bar. */
export function drawFigure(random: () => number, stepsPerBar: number): string {
  const chance = (share: number): boolean => random() < share
  const length = chance(0.25) ? 6 : stepsPerBar * (chance(0.5) ? 1 : 2)
  const busy = 0.35 + 0.5 * random()
  const sixteenths = chance(0.45)
  const cell = Array.from({ length }, (_, step) => {
    if (step === 0) return chance(0.5) ? '0' : 'm'
    if (step % 2 && !sixteenths) return '.'
    if (!chance(step % 4 === 0 ? busy + 0.2 : busy)) return '.'
    return chance(0.72) ? 'm' : OPEN[Math.floor(random() * OPEN.length)]!
  }).join('')
  return cell.repeat(Math.ceil((2 * stepsPerBar) / length)).slice(0, 2 * stepsPerBar)
}

export interface Stroke {
  /** In sixteenths from the start of the figure. */ step: number
  length: number
  semitones: number
  muted: boolean
}
/** The strokes of a figure that is repeated over so many sixteenths. */
export function strokesOf(figure: string, steps: number): Stroke[] {
  const marks = Array.from({ length: steps }, (_, step) => figure[step % figure.length]!)
  return marks.flatMap((mark, step): Stroke[] => {
    if (mark === '.') return []
    const next = marks.findIndex((other, index) => index > step && other !== '.')
    const muted = mark === 'm'
    return [
      {
        step,
        length: muted ? 1 : (next < 0 ? steps : next) - step,
        semitones: muted ? 0 : parseInt(mark, 12),
        muted,
      },
    ]
  })
}
