import { readFileSync } from 'node:fs'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { must } from '../../result'
import { readSong } from '../../document/migrations'
import type { Song } from '../../document/schema'
import { everyMarkSong } from '../../../tests/support/every-mark'
import { allFacts, formFacts, missingFacts, partFacts } from '../../../tests/support/score-facts'
import { exportSong, importFile } from '../formats'
import { scoreFromSong } from '../score/from-song'
import type { WrittenScore } from '../score/written-score'
import { songFromScore } from '../score/to-song'
import { readMusicXml } from './read-musicxml'
import { writeMusicXml, writeMxl } from './write-musicxml'
import { childOf, childrenOf, readXml, textOf } from './xml'

const demo = (name: string): Song =>
  must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))
const BAR = 40_320
const text = (song: Song): string => writeMusicXml(scoreFromSong(song))
const read = (xml: string) => must(readMusicXml(strToU8(xml)))
const refusal = (bytes: Uint8Array): string => {
  const result = readMusicXml(bytes)
  return result.ok ? 'read' : result.refusal.message
}

describe('a song as MusicXML and back', () => {
  it.each(['salt-on-the-signal', 'cold-kiln'])('keeps every note, chord, bar and tempo of %s', (name) => {
    const song = demo(name)
    const { score } = read(text(song))
    const again = must(songFromScore(score, { id: 'again', sourceName: 'file' })).song
    expect(missingFacts(allFacts(song), allFacts(again))).toEqual([])
    expect(missingFacts(allFacts(again), allFacts(song))).toEqual([])
  })

  it('keeps every mark there is, strums, a capo and chords of all kinds', () => {
    const song = everyMarkSong()
    const written = scoreFromSong(song)
    const { score } = read(text(song))
    expect(missingFacts(partFacts(written), partFacts(score))).toEqual([])
    expect(missingFacts(formFacts(written), formFacts(score))).toEqual([])
    const again = must(songFromScore(score, { id: 'again', sourceName: 'file' })).song
    expect(missingFacts(allFacts(song), allFacts(again))).toEqual([])
  })

  it('makes strokes over grips again of what a hand takes together', () => {
    const again = must(
      songFromScore(read(text(everyMarkSong())).score, { id: 'again', sourceName: 'file' }),
    ).song
    const chorus = Object.values(again.figures).find(({ name }) => name === 'Chorus')!
    expect(chorus.content.strokes.slice(0, 3).map(({ direction }) => direction)).toEqual([
      'down',
      'thumb',
      'fingers',
    ])
    expect(chorus.content.grips[0]!.grip.strings.map(({ fret }) => fret)).toEqual([0, 1, 0, 2, 3, null])
  })

  it('is the same packed', () => {
    const score = scoreFromSong(everyMarkSong())
    const packed = writeMxl(score)
    expect(strFromU8(unzipSync(packed)['score.musicxml']!)).toBe(writeMusicXml(score))
    expect(must(readMusicXml(packed)).score).toEqual(read(writeMusicXml(score)).score)
  })

  it('says the words of the format for what it has words for', () => {
    const xml = text(everyMarkSong())
    for (const word of [
      '<hammer-on type="stop"',
      '<pull-off type="start"',
      '<slide type="stop"',
      '<pre-bend/>',
      '<release/>',
      '<wavy-line type="start"',
      '<natural/>',
      '<artificial/>',
      '<tap/>',
      '<tied type="let-ring"/>',
      '<notehead>x</notehead>',
      '<mute>palm</mute>',
      '<capo>2</capo>',
      '<staff-tuning line="1">',
      '<frame-strings>6</frame-strings>',
      '<rehearsal>Verse</rehearsal>',
      '<kind text="m7b5">half-diminished</kind>',
      '<grace slash="yes"/>',
    ])
      expect(xml).toContain(word)
  })

  it('fills every bar of every voice to its end', () => {
    const root = must(readXml(text(everyMarkSong()), 'file'))
    const measures = childrenOf(root, 'part').flatMap((part) => childrenOf(part, 'measure'))
    for (const { children } of measures) {
      let at = 0
      for (const node of children) {
        const duration = Number(textOf(node, 'duration') || 0)
        if (node.name === 'backup') expect(at).toBe(BAR)
        if (node.name === 'backup') at -= duration
        else if (node.name === 'forward' || (node.name === 'note' && !childOf(node, 'chord'))) at += duration
      }
      expect(at).toBe(BAR)
    }
  })

  it('holds one part, or one section, when only that is wanted', () => {
    const song = everyMarkSong()
    const one = must(exportSong(song, 'musicxml', { partIds: ['two'] })).held
    expect(one.parts).toEqual([{ name: 'Guitar 2', notes: 0 }])
    const chorus = read(strFromU8(must(exportSong(song, 'musicxml', { sectionId: 'chorus' })).bytes)).score
    expect(chorus.bars).toHaveLength(8)
    expect(chorus.bars[0]).toMatchObject({ startTicks: 0, section: 'Chorus' })
    expect(chorus.parts[0]!.notes[0]!.startTicks).toBe(0)
    expect(chorus.tempo[0]).toMatchObject({ startTicks: 0, quartersPerMinute: 120 })
  })
})

describe('a file that is not to be read', () => {
  const BOMB =
    '<?xml version="1.0"?><!DOCTYPE score-partwise [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>' +
    '<score-partwise><work><work-title>&b;</work-title></work></score-partwise>'
  it.each([
    ['nothing', '', 'no sound XML'],
    ['prose', 'Dear all, please find the song attached.', 'no sound XML'],
    ['broken', '<score-partwise><part></score-partwise>', 'no sound XML'],
    ['entities of its own', BOMB, 'entities of its own'],
    ['another document', '<html><body/></html>', 'its first element is <html>'],
    ['timewise', '<score-timewise/>', 'part by part'],
    ['no measures', '<score-partwise><part id="P1"/></score-partwise>', 'no measures'],
    ['deep', `${'<a>'.repeat(200)}${'</a>'.repeat(200)}`, 'no sound XML'],
  ])('is refused in a sentence that says why: %s', (_name, xml, words) => {
    expect(refusal(strToU8(xml))).toContain(words)
  })

  it('is refused packed as well, also when it would unfold to too much', () => {
    expect(refusal(zipSync({ 'readme.md': strToU8('hello') }))).toContain('damaged')
    const huge = zipSync({ 'score.musicxml': new Uint8Array(41_000_000) })
    expect(huge.length).toBeLessThan(100_000)
    expect(refusal(huge)).toContain('too large')
    expect(refusal(Uint8Array.from([0x50, 0x4b, 3, 4, 1, 2, 3]))).toContain('damaged')
  })

  it('is told from a file of an unknown format by its name', () => {
    const result = importFile(strToU8('x'), 'song.docx')
    expect(result.ok || result.refusal.message).toContain('“song.docx” is in a format that is not read here')
  })

  it('says its tempo for who reads it, again where a section is clearly faster or slower', () => {
    const score = scoreFromSong(demo('salt-on-the-signal'))
    const marks = (one: WrittenScore): string[] =>
      [...writeMusicXml(one).matchAll(/<per-minute>(\d+)</g)].map(([, tempo]) => tempo!)
    // The opening is free.
    expect(marks(score)).toEqual(['117'])
    const second = score.bars.findLast(({ section }) => section !== undefined)!.startTicks
    const rushed = { ...score, tempo: [...score.tempo, { startTicks: second, quartersPerMinute: 150 }] }
    const inOrder = rushed.tempo.filter(
      ({ startTicks }, index) => index === rushed.tempo.length - 1 || startTicks < second,
    )
    expect(marks({ ...rushed, tempo: inOrder })).toEqual(['117', '150'])
  })
})
