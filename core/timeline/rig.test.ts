import { describe, expect, it } from 'vitest'
import type { Effect, Rig, Song } from '../document/schema'
import { readSong } from '../document/migrations'
import { must } from '../result'
import { figureOf, onOnes, placeOf, refusal, run, smallSong } from '../../tests/support/small-song'
import { clockWords, effectWords, millisecondsIn, rigLines, rigOf } from './rig'
import { soundPart, strikePart } from '../score/sound-song'

const effect = (kind: Effect['kind'], over: Partial<Effect> = {}): Effect => ({
  id: kind,
  kind,
  words: '',
  knobs: [],
  ...over,
})
const rig = (...effects: Effect[]): Rig => ({ pickup: 'bridge', gain: 'crunch', effects })
const charted = (): Song => {
  const song = run(smallSong(), 'addFigure', { figure: figureOf('two', { content: onOnes(2, 7) }) })
  return run(song, 'setPlacement', { placement: placeOf('p') })
}
const withRig = (song: Song, own: Rig, sectionId?: string): Song =>
  run(song, 'setRig', { partId: 'one', rig: own, ...(sectionId ? { sectionId } : {}) })
const delay = effect('delay', { delayTicks: 7560, repeats: 2 })

describe('what a part is played through', () => {
  it('is the rig of the section, else of the part', () => {
    const song = withRig(withRig(charted(), rig()), rig(effect('drive')), 'verse')
    expect(rigOf(song.parts.one!, 'verse')!.effects).toHaveLength(1)
    expect(rigOf(song.parts.one!, 'chorus')!.effects).toHaveLength(0)
    const back = run(song, 'setRig', { partId: 'one', sectionId: 'verse' })
    expect(back.parts.one).not.toHaveProperty('sectionRigs')
    expect(refusal(song, 'setRig', { partId: 'one', sectionId: 'nowhere' })).toContain('no longer there')
    expect(refusal(song, 'setRig', { partId: 'nobody' })).toContain('no longer there')
  })
  it('goes along when a section is split, and is gone when it is merged away', () => {
    const song = withRig(charted(), rig(delay), 'verse')
    const split = run(song, 'splitSection', {
      sectionId: 'verse',
      atBar: 4,
      newId: 'verse2',
      name: 'Verse 2',
      kind: 'verse',
    })
    expect(rigOf(split.parts.one!, 'verse2')).toEqual(rig(delay))
    const merged = run(split, 'mergeSection', { sectionId: 'verse' })
    expect(merged.parts.one!.sectionRigs!.map(({ sectionId }) => sectionId)).toEqual(['verse2'])
    must(readSong(JSON.parse(JSON.stringify(merged))))
  })
  it('says a delay in milliseconds at the measured tempo of the section', () => {
    // Quarters of half a second: a dotted eighth is 375 ms.
    expect(millisecondsIn(charted(), 'verse', 7560)).toBe(375)
    expect(effectWords(charted(), 'verse', delay)).toBe('delay: dotted eighth, 375 ms, 2 repeats')
    const bare = { ...charted(), sources: {}, sourceOrder: [] }
    expect(millisecondsIn(bare, 'verse', 7560)).toBe(450)
  })
  it('is told in lines: pickup, hand and effects in their order', () => {
    const own: Rig = {
      ...rig(
        effect('drive', { words: 'edge of breakup', knobs: [{ name: 'tone', clock: 9.5 }] }),
        effect('octave', { semitones: -12 }),
        effect('filter', { cutoffHz: 900 }),
        effect('reverb'),
      ),
      strike: 'fingers',
      feedback: true,
    }
    const song = withRig(charted(), own)
    expect(rigLines(song, song.parts.one!, 'verse')).toEqual([
      'bridge pickup, gain crunch, with fingers, let it feed back (mind the loudness)',
      'drive: edge of breakup; tone half past 9',
      'octave: an octave below',
      'fixed filter: dull above 900 Hz',
      'reverb',
    ])
    expect(rigLines(song, song.parts.two!, 'verse')).toEqual([])
  })
  it.each([
    [7, 'all the way down'],
    [12, '12 o’clock'],
    [13.5, 'half past 1'],
    [17, 'all the way up'],
  ])('a knob at %s is %s', (clock, words) => expect(clockWords(clock)).toBe(words))
})

describe('what a rig adds to the sound', () => {
  const struck = strikePart(charted(), 'one')
  it('an octave sounds with every note', () => {
    const events = soundPart(withRig(charted(), rig(effect('octave', { semitones: -12 }))), 'one')
    expect(events).toHaveLength(struck.length * 2)
    expect(events.filter(({ midi }) => midi === struck[0]!.midi - 12)).toHaveLength(struck.length)
  })
  it('a delay repeats in time with the beats as they are laid out, softer each time', () => {
    const events = soundPart(withRig(charted(), rig(delay)), 'one')
    const first = struck[0]!
    const [one, two] = events
      .filter(
        ({ startSeconds }) => startSeconds > first.startSeconds && startSeconds < first.startSeconds + 1,
      )
      .sort((a, b) => a.startSeconds - b.startSeconds)
    expect(one!.startSeconds - first.startSeconds).toBeCloseTo(0.375, 6)
    expect(two!.startSeconds - first.startSeconds).toBeCloseTo(0.75, 6)
    expect(first.loudness).toBeGreaterThan(one!.loudness)
    expect(one!.loudness).toBeGreaterThan(two!.loudness)
    expect(one!.string).not.toBe(first.string)
  })
  it('a fixed filter dulls the note, the lower of two counting', () => {
    const filters = rig(effect('filter', { cutoffHz: 900 }), effect('filter', { id: 'b', cutoffHz: 2000 }))
    const events = soundPart(withRig(charted(), filters), 'one')
    expect(events.map(({ cutoffHz }) => cutoffHz)).toEqual(struck.map(() => 900))
  })
  it('stays within bounds, however many effects there are', () => {
    const many = rig(
      ...['a', 'b', 'c', 'd'].map((id) => effect('delay', { id, delayTicks: 5040, repeats: 12 })),
      ...['e', 'f', 'g'].map((id) => effect('octave', { id, semitones: 12 })),
    )
    const events = soundPart(withRig(charted(), many), 'one')
    // One delay, its faint repeats left out, and two octaves.
    expect(events.length).toBeLessThanOrEqual(struck.length * 10 * 4)
    expect(Math.min(...events.map(({ loudness }) => loudness))).toBeGreaterThan(0.005)
  })
  it('sounds in its own section only', () => {
    const song = run(withRig(charted(), rig(delay), 'chorus'), 'setPlacement', {
      placement: placeOf('q', { sectionId: 'chorus' }),
    })
    expect(soundPart(song, 'one')).toHaveLength(struck.length * 2 + struck.length * 2)
  })
})

describe('parts of the band', () => {
  it('never share a name: a new one gets a number, a renamed one is asked', () => {
    const { one, two } = smallSong().parts
    const song = run(smallSong(), 'addPart', { part: { ...one!, id: 'three', name: 'guitar 2' } })
    expect(song.parts.three!.name).toBe('guitar 3')
    expect(refusal(song, 'changePart', { partId: 'three', set: { name: two!.name } })).toBe(
      'There is a part called “Guitar 2” already: call this one “Guitar 3”?',
    )
    expect(run(song, 'changePart', { partId: 'three', set: { name: 'Guitar 3' } }).parts.three!.name).toBe(
      'Guitar 3',
    )
  })
})
