import { describe, expect, it } from 'vitest'
import type { Section, Song } from '../document/schema'
import type { Key } from '../music/pitch'
import { TICKS_PER_QUARTER } from '../time/meter'
import { BAR, figureOf, run, smallSong } from '../../tests/support/small-song'
import { said } from '../../tests/support/said-line'
import { improviseOver } from './improvise'
import { riffScales } from './riff-scales'

const song = (key: Key): Song => run(smallSong(), 'setFacts', { key })
const over = (key: Key, ...symbols: string[]) => {
  const base = song(key)
  const section: Section = {
    ...base.sections.verse!,
    harmony: symbols.map((symbol, index) => ({ startTicks: index * BAR, lengthTicks: BAR, symbol })),
  }
  return improviseOver(base, section)
}
const E: Key = { tonic: 'E', mode: 'minor' }

describe('what to improvise with over a section', () => {
  it('is the minor pentatonic where nothing rubs against it', () => {
    const [first] = over(E, 'Em', 'C', 'G', 'D')
    expect(first).toMatchObject({ tonic: 'E', name: 'minor pentatonic', share: 1, mind: [] })
    expect(first!.why).toContain('fits every chord here')
  })
  it('says which tone to mind over a chord from outside', () => {
    const scales = over(E, 'Em', 'Am', 'B7', 'B7')
    const pentatonic = scales.find(({ name }) => name === 'minor pentatonic')!
    expect(pentatonic.share).toBe(0.5)
    expect(pentatonic.mind).toContain('over B7: D♯ rather than D')
    expect(scales.some(({ name, share }) => name === 'harmonic minor' && share === 1)).toBe(true)
  })
  it('names the tone of the scale that is meant: over A flat minor E flat dorian has C, not C flat', () => {
    const dorian = over({ tonic: 'Eb', mode: 'dorian' }, 'Ebm', 'Ab', 'Abm', 'Ebm').find(
      ({ name }) => name === 'dorian',
    )!
    expect(dorian.mind).toContain('over A♭m: C♭ rather than C')
  })
  it('takes the mixolydian for dominant sevenths, and keeps the blues in a major key', () => {
    const names = over({ tonic: 'A', mode: 'major' }, 'A7', 'A7', 'G', 'A7').map(({ name }) => name)
    expect(names).toContain('mixolydian')
    expect(over({ tonic: 'A', mode: 'major' }, 'A7', 'D7', 'E7').map(({ name }) => name)).toContain('blues')
  })
  it('says nothing where no chord is known', () => expect(over(E)).toEqual([]))
})

describe('the riffs of a song side by side', () => {
  it('shows each on the root of the song, and what all share', () => {
    const line = (id: string, call: string) =>
      figureOf(id, { content: said(call), lengthTicks: 2 * BAR, name: id })
    let charted = run(song(E), 'addFigure', { figure: line('a', 'low E open, 3, A open, 2, D open') })
    charted = run(charted, 'addFigure', { figure: line('b', 'low E open, 1, 3, A open, 2') })
    const { root, riffs, shared } = riffScales(charted)
    expect(root).toBe('E')
    expect(riffs.map(({ name, scale }) => `${name}: ${scale.tonic} ${scale.name}`)).toEqual([
      'a: E minor pentatonic',
      'b: E phrygian',
    ])
    expect(riffs[1]!.degrees).toEqual([0, 1, 3, 5, 7])
    expect(shared).toEqual([0, 3, 5, 7])
  })
  it('leaves out variations and figures without a line', () => {
    const song_ = song(E)
    expect(riffScales(song_).riffs).toEqual([])
    expect(riffScales(song_).shared).toEqual([])
    expect(TICKS_PER_QUARTER * 4).toBe(BAR)
  })
})
