// What notes, chords and keys are called in words of the check: as sounding, or as the band fingers them.
import { transposeSymbol } from '../music/chord-name'
import { pretty, spellPitchClass, transposeKey, type Key } from '../music/pitch'

export interface Names {
  tone: (pitchClass: number, key: Key) => string
  symbol: (symbol: string, key: Key) => string
  key: (key: Key) => string
}

/** Names so many semitones from how things sound. */
export const namesAt = (shift: number): Names => ({
  tone: (pitchClass, key) =>
    pretty(spellPitchClass((pitchClass + shift + 120) % 12, transposeKey(key, shift))),
  symbol: (symbol, key) =>
    pretty(shift === 0 ? symbol : transposeSymbol(symbol, shift, transposeKey(key, shift))),
  key: (key) => {
    const { tonic, mode } = transposeKey(key, shift)
    return `${pretty(tonic)} ${mode}`
  },
})
