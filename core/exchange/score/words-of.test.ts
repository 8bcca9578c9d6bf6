import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readSong } from '../../document/migrations'
import type { Song } from '../../document/schema'
import { transact } from '../../editing/transact'
import { must } from '../../result'
import { BAR, figureOf, onOnes, placeOf, run, smallSong } from '../../../tests/support/small-song'
import { writeMidiFile } from '../midi/write-midi'
import { readMusicXml } from '../musicxml/read-musicxml'
import { writeMusicXml } from '../musicxml/write-musicxml'
import { scoreFromSong } from './from-song'

/** The verse follows an intro of eight bars. */
const VERSE = 8 * BAR
const rig = { pickup: 'bridge', gain: 'crunch', effects: [] }
function song(): Song {
  const licks = [{ id: 'l', name: 'the turn', startTicks: BAR, lengthTicks: BAR }]
  const spot = (id: string, partId?: string) => ({
    id,
    place: { sectionId: 'verse', startTicks: BAR / 2, ...(partId ? { partId } : {}) },
    text: 'here we go',
    done: false,
    kind: 'landmark' as const,
    landmark: 'cue words' as const,
  })
  let now = run(smallSong(), 'addFigure', { figure: figureOf('two', { content: onOnes(2, 7), licks }) })
  now = run(now, 'setPlacement', { placement: placeOf('p', { figureId: 'two' }) })
  now = run(now, 'setRig', { partId: 'one', sectionId: 'verse', rig })
  now = run(now, 'setSpot', { spot: spot('all') })
  return must(transact(now, 'setSpot', { spot: { ...spot('own', 'one'), text: 'your fill' } })).song
}

describe('what is said in words along a part', () => {
  it('is its rig where that changes, its landmarks and its licks, each at its place', () => {
    const { words, parts } = scoreFromSong(song())
    expect(words).toEqual([{ startTicks: VERSE + BAR / 2, text: 'cue “here we go”' }])
    expect(parts[0]!.words!.slice(0, 3)).toEqual([
      { startTicks: VERSE, text: 'rig: bridge pickup, gain crunch' },
      { startTicks: VERSE + BAR / 2, text: 'cue “your fill”' },
      { startTicks: VERSE + BAR, text: '“the turn”' },
    ])
    expect(parts[1]!.words!.some(({ text }) => text.includes('your fill'))).toBe(false)
  })
  it('says a rig once, though its echo follows the tempo', () => {
    const salt = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
    const rigs = scoreFromSong(salt).parts.map(({ words = [] }) =>
      words.filter(({ text }) => text.startsWith('rig:')).map(({ text }) => text),
    )
    expect(rigs.map(({ length }) => length)).toEqual([1, 1, 0, 0, 0])
    expect(rigs[1]![0]).toContain('delay: dotted eighth')
  })
  it('stands in MusicXML and MIDI, and hinders nobody who reads them', () => {
    const written = song()
    const xml = writeMusicXml(scoreFromSong(written))
    for (const said of ['bridge pickup', 'your fill', 'the turn', 'here we go']) expect(xml).toContain(said)
    const read = must(readMusicXml(new TextEncoder().encode(xml))).score
    expect(read.parts[0]!.notes).toHaveLength(scoreFromSong(written).parts[0]!.notes.length)
    const bytes = new TextDecoder().decode(writeMidiFile(written).bytes)
    for (const said of ['bridge pickup', 'your fill', 'here we go']) expect(bytes).toContain(said)
  })
})
