// What teachers teach first: of each of sixty chords the grip that is proposed first, in standard tuning.
import { describe, expect, it } from 'vitest'
import { must } from '../../result'
import { newPart } from '../../document/new-song'
import { writeGrip } from './grip'
import { gripsFor } from './grip-search'

const guitar = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
const first = (symbol: string): string => writeGrip(must(gripsFor(symbol, guitar, { count: 1 }))[0]!.grip)

/** Low string first. Where two are taught alike, both stand. */
const TAUGHT: [symbol: string, grips: string][] = [
  ['C', 'x32010'],
  ['D', 'xx0232'],
  ['E', '022100'],
  ['F', '133211'],
  ['G', '320003 320033'],
  ['A', 'x02220'],
  ['B', 'x24442'],
  ['Bb', 'x13331'],
  ['Eb', 'x68886 xx1343'],
  ['Ab', '466544'],
  ['Db', 'x46664'],
  ['F#', '244322'],
  ['Am', 'x02210'],
  ['Bm', 'x24432'],
  ['Cm', 'x35543'],
  ['Dm', 'xx0231'],
  ['Em', '022000'],
  ['Fm', '133111'],
  ['Gm', '355333'],
  ['C#m', 'x46654'],
  ['F#m', '244222'],
  ['G#m', '466444'],
  ['Bbm', 'x13321'],
  ['Ebm', 'x68876 xx1342'],
  ['A7', 'x02020'],
  ['B7', 'x21202'],
  ['C7', 'x32310'],
  ['D7', 'xx0212'],
  ['E7', '020100'],
  ['F7', '131211'],
  ['G7', '320001'],
  ['F#7', '242322'],
  ['Bb7', 'x13131'],
  ['Am7', 'x02010'],
  ['Bm7', 'x24232 x20202'],
  ['Dm7', 'xx0211'],
  ['Em7', '020000 022030 022033'],
  ['F#m7', '242222'],
  ['Gm7', '353333'],
  ['Cm7', 'x35343'],
  ['Cmaj7', 'x32000'],
  ['Dmaj7', 'xx0222'],
  ['Amaj7', 'x02120'],
  ['Emaj7', '021100'],
  ['Fmaj7', 'xx3210'],
  ['Gmaj7', '320002'],
  ['Asus2', 'x02200'],
  ['Asus4', 'x02230'],
  ['Dsus2', 'xx0230'],
  ['Dsus4', 'xx0233'],
  ['Esus4', '022200'],
  ['Cadd9', 'x32030'],
  ['E7sus4', '020200'],
  ['A7sus4', 'x02030'],
  ['D7#9', 'x5456x'],
  ['E7#9', 'x7678x 020103 076780'],
  ['F#m7b5', '2x221x'],
  ['Bm7b5', 'x2323x'],
  ['G/B', 'x20003 x20033'],
  ['D/F#', '2x0232 200232'],
  ['C/G', '332010 3x2010'],
  ['Am/G', '3x2210 302210'],
]

const fingers = (symbol: string): string =>
  must(gripsFor(symbol, guitar, { count: 1 }))[0]!
    .grip.strings.map(({ finger }) => finger ?? '-')
    .reverse()
    .join('')

describe('the fingers of the grip that is proposed first', () => {
  it.each(['B', 'Bb', 'C#', 'D#'])('%s is a barre as it is taught', (symbol) =>
    expect(['-13331', '-12341']).toContain(fingers(symbol)),
  )
  it.each([
    ['E', '-231--'],
    ['F', '134211'],
    ['Esus4', '-123-- -234--'],
    ['A', '--123- --213- --234-'],
    ['C', '-32-1-'],
    ['G', '21---3 32---4'],
  ])('%s is held as it is taught', (symbol, taught) => expect(taught.split(' ')).toContain(fingers(symbol)))
})

describe('the grip that is proposed first', () => {
  it('has sixty chords and more to stand for', () => expect(TAUGHT.length).toBeGreaterThanOrEqual(60))
  it.each(TAUGHT)('for %s is the one that is taught first', (symbol, grips) =>
    expect(grips.split(' ')).toContain(first(symbol)),
  )
})
