import { describe, expect, it } from 'vitest'
import { INSTRUMENTS } from '../instrument/instruments'
import { newPart } from './new-song'
import { switchedInstrument } from './switch-instrument'
import type { Part } from './schema'

const switched = (part: Part, kind: Parameters<typeof switchedInstrument>[1]): Part => ({
  ...part,
  ...switchedInstrument(part, kind),
})

describe('another instrument for a part', () => {
  const bass = newPart({ id: 'b', name: 'Low', kind: 'bass-4' })
  const guitar: Part = {
    ...newPart({ id: 'g', name: 'High', kind: 'guitar-6' }),
    role: 'lead',
    sound: 'driven',
  }
  it('leaves nothing of a bass on a guitar, nor of a guitar on a bass', () => {
    expect(switched(bass, 'guitar-6')).toMatchObject({ role: 'rhythm', sound: 'clean', name: 'Low' })
    expect(switched(guitar, 'bass-5')).toMatchObject({ role: 'bass', sound: 'finger bass' })
  })
  it('keeps role and sound among guitars, and no gauges, capo or frets of the old one', () => {
    const old: Part = { ...guitar, instrument: { ...guitar.instrument, capo: 3, gauges: [0.009] } }
    const next = switched(old, 'guitar-7')
    expect(next).toMatchObject({ role: 'lead', sound: 'driven' })
    expect(next.instrument).toEqual({ kind: 'guitar-7', fretCount: 24, scaleLengthMm: 648, capo: 0 })
    expect(next.tuning.openMidi).toHaveLength(INSTRUMENTS['guitar-7'].strings)
  })
})
