import { strToU8 } from 'fflate'
import { describe, expect, it } from 'vitest'
import { must } from '../../result'
import { songFromScore } from '../score/to-song'
import { readMusicXml } from './read-musicxml'

// As other programs write: two staves for one guitar, repeats with endings, ties, a pickup, transposition.
const measure = (number: number, inside: string, more = ''): string =>
  `<measure number="${number}"${more}>${inside}</measure>`
const FIRST = `<attributes><divisions>2</divisions><key><fifths>1</fifths></key>
  <time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef>
  <transpose><chromatic>0</chromatic><octave-change>-1</octave-change></transpose></attributes>`
const pitch = (step: string, octave: number, duration: number, more = ''): string =>
  `<note><pitch><step>${step}</step><octave>${octave}</octave></pitch>
   <duration>${duration}</duration>${more}</note>`
const file = (
  measures: string,
  list = '<score-part id="P1"><part-name>Lead</part-name></score-part>',
): string =>
  `<score-partwise version="3.1"><movement-title>Paper Boat</movement-title>
   <part-list>${list}</part-list><part id="P1">${measures}</part></score-partwise>`
const read = (xml: string) => must(readMusicXml(strToU8(xml)))
const midis = (xml: string): number[] => read(xml).score.parts[0]!.notes.map(({ midi }) => midi)

describe('a score from another program', () => {
  it('is sounding: what a guitar is written an octave higher comes down', () => {
    expect(midis(file(measure(1, FIRST + pitch('E', 4, 8))))).toEqual([52])
  })

  it('plays out repeats and their endings', () => {
    const bar = (n: number, step: string, signs = ''): string => measure(n, pitch(step, 4, 8) + signs)
    const ending = (number: string, type: string, repeat = ''): string =>
      `<barline><ending number="${number}" type="${type}"/>${repeat}</barline>`
    const begin = (number: string): string => ending(number, 'start')
    const back = '<repeat direction="backward"/>'
    const xml = file(
      [
        measure(1, FIRST + pitch('C', 4, 8)),
        measure(2, `<barline><repeat direction="forward"/></barline>${pitch('D', 4, 8)}`),
        measure(3, begin('1') + pitch('E', 4, 8) + ending('1', 'stop', back)),
        measure(4, begin('2') + pitch('F', 4, 8) + ending('2', 'stop')),
        bar(5, 'G'),
      ].join(''),
    )
    expect(midis(xml)).toEqual([48, 50, 52, 50, 53, 55])
    expect(read(xml).score.bars).toHaveLength(6)
  })

  it('repeats as often as it says, and to the beginning where there is no sign forward', () => {
    const xml = file(
      measure(1, FIRST + pitch('C', 4, 8)) +
        measure(2, `${pitch('D', 4, 8)}<barline><repeat direction="backward" times="3"/></barline>`) +
        measure(3, pitch('E', 4, 8)),
    )
    expect(midis(xml)).toEqual([48, 50, 48, 50, 48, 50, 52])
  })

  it('joins tied notes over the bar line', () => {
    const xml = file(
      measure(1, FIRST + pitch('A', 4, 8, '<tie type="start"/>')) +
        measure(2, pitch('A', 4, 4, '<tie type="stop"/>') + pitch('B', 4, 4)),
    )
    expect(read(xml).score.parts[0]!.notes).toMatchObject([
      { startTicks: 0, lengthTicks: 60_480, midi: 57 },
      { startTicks: 60_480, lengthTicks: 20_160, midi: 59 },
    ])
  })

  it('takes a pickup as the short bar it is', () => {
    const xml = file(measure(0, FIRST + pitch('B', 4, 2), ' implicit="yes"') + measure(1, pitch('E', 5, 8)))
    const { score } = read(xml)
    expect(score.bars.map(({ meter }) => `${meter.beats}/${meter.unit}`)).toEqual(['1/4', '4/4'])
    expect(score.parts[0]!.notes[1]!.startTicks).toBe(10_080)
    // Each figure has the meter of its bars.
    const { figures } = must(songFromScore(score, { id: 'x', sourceName: '' })).song
    expect(Object.values(figures).map(({ meter, lengthTicks }) => [meter.beats, lengthTicks])).toEqual([
      [1, 10_080],
      [4, 40_320],
    ])
  })

  it('reads the tablature staff of two and counts no note twice', () => {
    const staves = FIRST.replace('<clef>', '<staves>2</staves><clef number="1">').replace(
      '</attributes>',
      '<clef number="2"><sign>TAB</sign><line>5</line></clef></attributes>',
    )
    const technical = '<notations><technical><string>2</string><fret>5</fret></technical></notations>'
    const xml = file(
      measure(
        1,
        `${staves}${pitch('E', 5, 8, '<staff>1</staff>')}<backup><duration>8</duration></backup>` +
          pitch('E', 5, 8, `<staff>2</staff>${technical}`),
      ),
    )
    expect(read(xml).score.parts[0]!.notes).toMatchObject([{ string: 2, fret: 5, midi: 64 }])
  })

  it('reads chords spelled by kind and degrees, and tempo by a metronome mark', () => {
    const said = `<direction><direction-type><metronome><beat-unit>quarter</beat-unit><beat-unit-dot/>
      <per-minute>60</per-minute></metronome></direction-type></direction>
      <harmony><root><root-step>F</root-step><root-alter>1</root-alter></root>
      <kind>minor-seventh</kind></harmony>`
    const later = `<harmony><root><root-step>G</root-step></root><kind>dominant</kind>
      <bass><bass-step>B</bass-step></bass><degree><degree-value>9</degree-value>
      <degree-alter>1</degree-alter><degree-type>add</degree-type></degree></harmony>`
    const { score } = read(file(measure(1, FIRST + said + pitch('C', 4, 4) + later + pitch('D', 4, 4))))
    expect(score.harmony.map(({ symbol, startTicks }) => [symbol, startTicks])).toEqual([
      ['F#m7', 0],
      ['G7#9/B', 20_160],
    ])
    expect(score.tempo).toEqual([{ startTicks: 0, quartersPerMinute: 90 }])
  })

  it('says what it leaves out: drums, jumps, what no string reaches', () => {
    const drums = '<note><unpitched/><duration>8</duration></note>'
    const { dropped } = read(
      file(
        measure(1, FIRST + pitch('C', 4, 8)) +
          measure(2, drums) +
          measure(3, `${pitch('C', 9, 8)}<sound dalsegno="a"/>`),
      ),
    )
    expect(dropped.map(({ what, count }) => `${count} ${what}`)).toEqual([
      '1 jumps (da capo, dal segno)',
      '1 notes without a pitch',
      '1 notes off the neck',
    ])
  })

  it('keeps chords that stand with a diagram, as other programs write every chord', () => {
    const framed = (step: string): string =>
      `<harmony><root><root-step>${step}</root-step></root><kind>major</kind><frame>
       <frame-strings>6</frame-strings><frame-frets>4</frame-frets></frame></harmony>`
    const { score } = read(
      file(measure(1, FIRST + framed('C') + pitch('C', 4, 4) + framed('F') + pitch('F', 4, 4))),
    )
    expect(score.harmony.map(({ symbol }) => symbol)).toEqual(['C', 'F'])
  })

  it.each([
    ['no chord without words for it', '<root><root-step>C</root-step></root><kind>none</kind>', 'N.C.'],
    ['signs of print', '<root><root-step>D</root-step></root><kind text="7(♯9)">dominant</kind>', 'D7#9'],
    [
      'an altered fifth',
      `<root><root-step>A</root-step></root><kind>dominant</kind><degree><degree-value>5</degree-value>
       <degree-alter>-1</degree-alter><degree-type>alter</degree-type></degree>`,
      'A7b5',
    ],
    [
      'a lowered fifth of a minor seventh',
      `<root><root-step>B</root-step></root><kind>minor-seventh</kind><degree><degree-value>5</degree-value>
       <degree-alter>-1</degree-alter><degree-type>alter</degree-type></degree>`,
      'Bm7b5',
    ],
  ])('reads a chord with %s', (_, inside, symbol) => {
    const xml = file(measure(1, `${FIRST}<harmony>${inside}</harmony>${pitch('C', 4, 8)}`))
    expect(read(xml).score.harmony[0]!.symbol).toBe(symbol)
  })

  it('strikes the chord of the moment where slashes are written, by its diagram where there is one', () => {
    const chord = (step: string, frame = ''): string =>
      `<harmony><root><root-step>${step}</root-step></root><kind>major</kind>${frame}</harmony>`
    const frets = [1, 1, 2, 3, 3, 1]
    const frame = `<frame><frame-strings>6</frame-strings><frame-frets>4</frame-frets>${frets
      .map((fret, index) => `<frame-note><string>${index + 1}</string><fret>${fret}</fret></frame-note>`)
      .join('')}</frame>`
    const slash = pitch('B', 4, 4, '<notehead>slash</notehead>')
    const { score, dropped } = read(
      file(measure(1, FIRST + chord('F', frame) + slash + chord('E') + slash) + measure(2, slash)),
    )
    const struck = [0, 20_160].map((tick) =>
      score.parts[0]!.notes.filter(({ startTicks }) => startTicks === tick)
        .map(({ string, fret }) => `${string}:${fret}`)
        .sort()
        .join(' '),
    )
    expect(struck).toEqual(['1:1 2:1 3:2 4:3 5:3 6:1', '1:0 2:0 3:1 4:2 5:2 6:0'])
    expect(score.parts[0]!.notes).toHaveLength(18)
    expect(dropped.map(({ what }) => what)).toEqual(['chord frames'])
    const song = must(songFromScore(score, { id: 'x', sourceName: '' })).song
    const { content } = Object.values(song.figures)[0]!
    expect([content.strokes.length, content.grips.length, content.notes.length]).toEqual([3, 2, 0])
  })

  it('plays what signs for repeated bars stand for, and no cue notes', () => {
    const style = (inside: string): string =>
      `<attributes><measure-style>${inside}</measure-style></attributes>`
    const rest = '<note><rest measure="yes"/><duration>8</duration></note>'
    const cue = '<note><cue/><pitch><step>G</step><octave>5</octave></pitch><duration>8</duration></note>'
    const xml = file(
      measure(1, FIRST + pitch('C', 4, 8)) +
        measure(2, style('<measure-repeat type="start">1</measure-repeat>') + rest) +
        measure(3, rest) +
        measure(4, style('<measure-repeat type="stop"/>') + cue),
    )
    expect(midis(xml)).toEqual([48, 48, 48])
    expect(read(xml).dropped.map(({ what, count }) => `${count} ${what}`)).toEqual(['1 cue notes'])
  })

  it('has the capo of a part that names no strings', () => {
    const capo = FIRST.replace('</attributes>', '<staff-details><capo>2</capo></staff-details></attributes>')
    expect(read(file(measure(1, capo + pitch('E', 4, 8)))).score.parts[0]!.instrument.capo).toBe(2)
  })

  describe('whose tablature disagrees with its notes', () => {
    const on = (string: number, fret: number): string =>
      `<notations><technical><string>${string}</string><fret>${fret}</fret></technical></notations>`
    const xml = file(measure(1, FIRST + pitch('E', 4, 4, on(4, 2)) + pitch('G', 4, 4, on(4, 4))))

    it('asks which is meant, and takes what is answered', () => {
      const { score, questions } = read(xml)
      expect(questions).toMatchObject([{ id: 'pitches', taken: 'frets' }])
      expect(questions[0]!.text).toContain(
        'first in bar 1 of Lead: fret 4 on string 4 is F♯3, the note is G3',
      )
      expect(score.parts[0]!.notes.map(({ fret }) => fret)).toEqual([2, 4])
      const other = must(readMusicXml(strToU8(xml), { answers: { pitches: 'pitches' } }))
      expect(other.score.parts[0]!.notes.map(({ midi }) => midi)).toEqual([52, 55])
    })

    it('does not ask where the notes are only written an octave higher', () => {
      const octave = xml.replace('<octave-change>-1</octave-change>', '').replace(on(4, 4), on(4, 5))
      expect(read(octave).questions).toEqual([])
    })
  })

  it('makes a song of sections, alike stretches sharing a figure', () => {
    const mark = (name: string): string =>
      `<direction><direction-type><rehearsal>${name}</rehearsal></direction-type></direction>`
    const xml = file(
      measure(1, FIRST + mark('Verse 1') + pitch('C', 4, 8)) +
        measure(2, mark('Chorus') + pitch('G', 4, 8)) +
        measure(3, mark('Verse 2') + pitch('C', 4, 8)),
    )
    const song = must(songFromScore(read(xml).score, { id: 'x', sourceName: 'paper-boat.musicxml' })).song
    expect(song.sectionOrder.map((id) => `${song.sections[id]!.name}: ${song.sections[id]!.kind}`)).toEqual([
      'Verse 1: verse',
      'Chorus: chorus',
      'Verse 2: verse',
    ])
    expect(Object.keys(song.figures)).toHaveLength(2)
    expect(Object.keys(song.placements)).toHaveLength(3)
    expect(song.title).toBe('Paper Boat')
  })
})
