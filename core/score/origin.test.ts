import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { readSong } from '../document/migrations'
import { orderedParts } from '../document/form'
import { soundPart } from './sound-song'
import { writtenAt } from './origin'

const song = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))

describe('from what sounds back to what is written', () => {
  it.each(orderedParts(song).map(({ name, id }) => [name, id] as const))(
    'every note of %s leads by ids to its figure, its place, its pass, its string and fret',
    (_, partId) => {
      const events = soundPart(song, partId)
      expect(events.length).toBeGreaterThan(20)
      for (const { origin } of events) {
        const written = origin && writtenAt(song, origin)
        if (!origin || !written) throw new Error('a note comes from nowhere')
        expect(written.figure.partId).toBe(partId)
        const { placement, note, stroke, grip } = written
        if (placement?.kind !== 'figure') throw new Error('a note of a rest')
        expect(origin.pass).toBeLessThanOrEqual(placement.passes)
        const own = note ?? stroke ?? grip
        expect(own?.startTicks).toBeLessThan(written.figure.lengthTicks)
        const plain = note?.marks.every(({ kind }) => kind !== 'rake' && kind !== 'grace')
        if (note && plain)
          expect([origin.string, origin.fret]).toEqual([note.string, note.fret + placement.shiftFrets])
      }
    },
  )
  it('leads nowhere once the figure, or the note in it, is gone', () => {
    const [event] = soundPart(song, orderedParts(song)[0]!.id)
    const origin = event!.origin!
    expect(writtenAt({ ...song, figures: {} }, origin)).toBeUndefined()
    expect(writtenAt(song, { ...origin, id: 'another' })).toBeUndefined()
  })
})
