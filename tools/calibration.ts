// Whether what is said with a confidence proves right as often as it says.

export interface Calibration {
  /** So much (seconds, sections …) was said with a confidence, and so much of it was right. */
  add: (confidence: number, amount: number, right: number) => void
  /** Prints a line for each tenth of confidence with more than a little to tell. */
  print: (title: string, unit: string) => void
}

const BINS = 10
/** Less than this tells nothing. */
const LEAST = 10
/** Width of the bars printed. */
const WIDTH = 40

export function calibration(): Calibration {
  const bins = Array.from({ length: BINS }, () => ({ amount: 0, right: 0 }))
  return {
    add(confidence, amount, right) {
      const bin = bins[Math.min(BINS - 1, Math.floor(confidence * BINS))]
      if (!bin) return
      bin.amount += amount
      bin.right += right
    },
    print(title, unit) {
      console.log(`\n${title}`)
      bins.forEach(({ amount, right }, index) => {
        if (amount < LEAST) return
        const share = right / amount
        console.log(
          `${(index / BINS).toFixed(1)}–${((index + 1) / BINS).toFixed(1)}`.padEnd(10),
          `${(100 * share).toFixed(0)} %`.padStart(6),
          '#'.repeat(Math.round(WIDTH * share)),
          `(${amount.toFixed(0)} ${unit})`,
        )
      })
    },
  }
}
