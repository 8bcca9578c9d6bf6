import { describe, expect, it } from 'vitest'
import { BAR, figureOf, run, smallSong } from '../../tests/support/small-song'
import { readLickCall } from './lick-call'

const home = figureOf('home', {
  lengthTicks: 4 * BAR,
  licks: [{ id: 'l', name: 'The turn', startTicks: BAR, lengthTicks: BAR }],
})
const song = run(run(smallSong(), 'addFigure', { figure: home }), 'addFigure', {
  figure: figureOf('other', { lengthTicks: 2 * BAR }),
})
const read = (call: string, tick = 0, id = 'home') => readLickCall(call, song, song.figures[id]!, tick)

describe('a lick on the call line', () => {
  it.each([
    ['call bar 2 the usual line', 'the usual line', BAR, BAR],
    ['name bars two to three “his turn”', 'his turn', BAR, 2 * BAR],
    ['call this lick up and over', 'up and over', 2 * BAR, BAR],
  ])('%s', (call, name, startTicks, lengthTicks) =>
    expect(read(call, 2 * BAR)).toEqual({ ok: true, does: 'name', name, startTicks, lengthTicks }),
  )
  it('is put in again by its name alone, in any figure of its part', () => {
    for (const call of ['the turn', 'play the turn', '“The turn”'])
      expect(read(call, 0, 'other')).toMatchObject({ does: 'put in', lick: { id: 'l' } })
  })
  it('gives way to notes where its name is written as they are', () => {
    const named = { ...home, licks: [{ ...home.licks![0]!, name: 'G 7 9' }] }
    const notes = { ...song, figures: { ...song.figures, home: named } }
    expect(readLickCall('G 7 9', notes, named, 0)).toBeUndefined()
    expect(readLickCall('play “G 7 9”', notes, named, 0)).toMatchObject({ does: 'put in' })
  })
  it('says what is missing, and leaves every other call to who reads notes', () => {
    expect(read('call bar 9 the end')).toEqual({ ok: false, message: '“home” has bars 1 to 4.' })
    expect(read('call this lick')).toMatchObject({ ok: false })
    for (const call of ['7 on the G', 'call', 'turn', 'name the chord']) expect(read(call)).toBeUndefined()
  })
})
