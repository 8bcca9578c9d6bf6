import { describe, expect, it } from 'vitest'
import { figureOf, placeOf, run, smallSong } from '../../tests/support/small-song'
import { newPart } from '../document/new-song'
import { everywhere, layCall, lengthFor } from './entering'
import { readCall } from './read-call'

const part = newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' })
function call(text: string, startTicks = 0) {
  const reading = readCall(text, {
    part,
    letters: ['E', 'B', 'G', 'D', 'A', 'E'],
    meter: { beats: 4, unit: 4 },
    subdivision: 'eighths',
    stepTicks: 5040,
    startTicks,
  })
  if (!reading.ok) throw new Error(reading.error.message)
  return reading.value
}
let id = 0
const newId = (): string => `new${id++}`

describe('where a call goes', () => {
  it('on top of what stands there, nothing goes but what is on the same string at the same time', () => {
    const below = call('7 on the G, 5 on the A').content
    const both = layCall(below, call('9 on the G, 7 on the D'), newId)
    expect(both.notes.map((note) => `${note.string}/${note.fret}@${note.startTicks}`)).toEqual([
      '3/9@0',
      '5/5@5040',
      '4/7@5040',
    ])
    expect(new Set(both.notes.map((note) => note.id)).size).toBe(3)
  })
  it('after a figure, in as many bars as it needs', () => {
    const figure = { lengthTicks: 40_320, meter: { beats: 4, unit: 4 } as const }
    expect(lengthFor(figure, call('7 on the G, nine times', 40_320))).toBe(3 * 40_320)
    expect(lengthFor(figure, call('7 on the G'))).toBe(40_320)
  })
  it('for every section of a kind: each figure that sounds at that place, once', () => {
    let song = run(smallSong(), 'setPlacement', { placement: placeOf('first') })
    const riff = song.figures.riff!
    expect(everywhere(song, riff, 5040)).toEqual([{ figureId: 'riff', tick: 5040 }])
    song = run(song, 'addFigure', { figure: figureOf('other') })
    song = run(song, 'setPlacement', {
      placement: placeOf('second', { sectionId: 'chorus', figureId: 'other', passes: 2 }),
    })
    expect(everywhere(song, riff, 5040)).toEqual([
      { figureId: 'riff', tick: 5040 },
      { figureId: 'other', tick: 5040 },
    ])
  })
})
