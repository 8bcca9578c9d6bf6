import { beforeAll, describe, expect, it } from 'vitest'
import { RATE, pluck } from '../../../tests/support/tones'
import { BAR, RIFF, run, twoVerses } from '../../../tests/support/two-verses'
import { nodeFft } from '../../../node/fft'
import { EMPTY_CONTENT, type Note, type Placement, type Song } from '../../document/schema'
import { Cancelled, quietJob } from '../../hear/job'
import type { Recording } from '../../hear/features/recording'
import type { MakeFft } from '../../hear/features/spectrum'
import { soundPart } from '../../score/sound-song'
import type { Finding } from '../finding'
import { recordingCheck } from './recording-check'

let makeFft: MakeFft
beforeAll(async () => {
  makeFft = await nodeFft()
})

/** The guitar on the left, so many cents off; something else on the right all the time. */
function recordOf(song: Song, cents = 0): Recording {
  const [left, right] = [new Float32Array(18 * RATE), new Float32Array(18 * RATE)]
  for (const { midi, startSeconds, endSeconds } of soundPart(song, 'g'))
    pluck(left, { midi: midi + cents / 100, start: startSeconds, length: endSeconds - startSeconds })
  for (let start = 1; start < 17; start += 0.5) pluck(right, { midi: 71, start, length: 0.5 })
  return { channels: [left, right], sampleRate: RATE }
}
type FigurePlacement = Extract<Placement, { kind: 'figure' }>
const seated = run(twoVerses(), 'changePart', { partId: 'g', set: { pan: -0.7 } })
const check = (song: Song, recording = recordOf(seated)): Promise<Finding[]> =>
  recordingCheck(recording, makeFft)(song, quietJob)

const withNote = (index: number, set: Partial<Note>): Song =>
  run(seated, 'changeFigure', {
    figureId: 'riff',
    what: 'notes',
    set: {
      content: {
        ...EMPTY_CONTENT,
        notes: RIFF.notes.map((one, at) => (at === index ? { ...one, ...set } : one)),
      },
    },
  })
const resting = (sectionId: string): Song =>
  run(run(seated, 'removePlacement', { placementId: sectionId === 'v1' ? 'p1' : 'p2' }), 'setPlacement', {
    placement: { kind: 'rests', id: 'rest', partId: 'g', sectionId, startTicks: 0, lengthTicks: 4 * BAR },
  })

describe('the chart held against its recording', () => {
  it('says nothing where the record plays what is charted', async () =>
    expect(await check(seated)).toEqual([]))

  it('hears a fret that is one off in every pass together, and mends it', async () => {
    const listen = recordingCheck(recordOf(seated), makeFft)
    const wrong = withNote(5, { fret: 4 })
    const [finding, ...others] = await listen(wrong, quietJob)
    expect(others).toEqual([])
    expect(finding).toMatchObject({
      kind: 'not as heard',
      place: { partId: 'g', figureId: 'riff' },
      fix: { words: 'Fret 3 instead of 4' },
    })
    expect(finding!.words).toContain('G♯2 is charted (bar 2, 2), G2 is heard, in 4 passes together')
    const mended = run(wrong, finding!.fix!.name, finding!.fix!.args)
    expect(await listen(mended, quietJob)).toEqual([])
  })

  it('mends a note that a variation takes over from its base, in the variation alone', async () => {
    const wrong = withNote(5, { fret: 4 })
    const riff = wrong.figures.riff!
    const varied = run(wrong, 'addFigure', {
      figure: { ...riff, id: 'varied', name: 'varied', variationOf: { figureId: 'riff', replacedBars: [0] } },
    })
    const placed = run(varied, 'setPlacement', {
      placement: { ...(varied.placements.p2 as FigurePlacement), figureId: 'varied' },
    })
    const listen = recordingCheck(recordOf(seated), makeFft)
    const finding = (await listen(placed, quietJob)).find(({ place }) => place.figureId === 'varied')
    expect(finding).toMatchObject({ kind: 'not as heard', fix: { words: 'Fret 3 instead of 4' } })
    const mended = run(placed, finding!.fix!.name, finding!.fix!.args)
    expect(mended.figures.riff).toEqual(placed.figures.riff)
    expect((await listen(mended, quietJob)).map(({ place }) => place.figureId)).toEqual(['riff'])
  })

  it('hears a note on the wrong string, and offers the right one', async () => {
    const [finding] = await check(withNote(5, { string: 5 }))
    expect(finding).toMatchObject({ kind: 'not as heard', fix: { words: 'String 6 instead of 5' } })
  })

  it('follows a record that lies a third of a tone off', async () => {
    expect(await check(seated, recordOf(seated, -34))).toEqual([])
    const [finding] = await check(withNote(5, { fret: 4 }), recordOf(seated, -34))
    expect(finding?.kind).toBe('not as heard')
  })

  it('names bars that are charted in silence, and bars that are played where the part rests', async () => {
    expect(await check(seated, recordOf(resting('v2')))).toMatchObject([
      {
        kind: 'silent on the record',
        words: 'Guitar is charted in Verse 2, and on its side (left) the record is silent there.',
        place: { sectionId: 'v2', partId: 'g', startTicks: 0 },
      },
    ])
    expect(await check(resting('v2'))).toMatchObject([
      { kind: 'heard, not charted', words: 'Somebody plays on the left in Verse 2, where Guitar rests.' },
    ])
  })

  it('claims nothing of a song that is not laid out, or of a side where nobody sits', async () => {
    const { grid: _grid, ...bare } = seated.sources.r!
    expect(await check({ ...seated, sources: { r: bare } })).toEqual([])
    const middle = run(resting('v2'), 'changePart', { partId: 'g', set: { pan: 0 } })
    expect((await check(middle)).map(({ kind }) => kind)).not.toContain('heard, not charted')
  })

  it('stops when it is told to, and starts again', async () => {
    const listen = recordingCheck(recordOf(seated), makeFft)
    const stopped = { ...quietJob, isCancelled: () => true }
    await expect(listen(seated, stopped)).rejects.toBeInstanceOf(Cancelled)
    expect(await listen(seated, quietJob)).toEqual([])
  })
})
