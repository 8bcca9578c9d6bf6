// Builds a demo song through the application's own transactions, with the truth a recording of it has: when
// each beat falls, what sounds.
import { must } from '../core/result'
import { transposeKey, type Key } from '../core/music/pitch'
import { transposeSymbol } from '../core/music/chord-name'
import { newPart, newSong } from '../core/document/new-song'
import { transact } from '../core/editing/transact'
import type { ArgsOf, TransactionName } from '../core/document/transactions'
import {
  barTicks,
  beatTicks,
  countedBeats,
  TICKS_PER_QUARTER,
  type Meter,
  type Subdivision,
  type Swing,
} from '../core/time/meter'
import type { FlatBeat } from '../core/time/flat-beats'
import { derivedContent, derivedLine } from '../core/neck/lines/derive'
import { storeContent } from '../core/document/figure-layers'
import { patternStrokes } from '../core/document/pattern'
import type {
  Content,
  Figure,
  LineDerivation,
  Part,
  PickSchool,
  SectionKind,
  Song,
} from '../core/document/schema'
import { seededRandom } from './random'

export interface SectionPlan {
  id: string
  kind: SectionKind
  name: string
  bars: number
  meter?: Meter
  tempo?: number
  free?: number[]
  /** Chords by shape, one string a bar; "C>D" changes in mid-bar, "^D" comes an eighth early. */
  chords: string[]
  drums: string[]
  voice?: string
  returns?: string
  shift?: number
  passes?: number
  key?: Key
}
export interface FigurePlan {
  id: string
  part: string
  name: string
  bars: number
  meter?: Meter
  content: Content
  subdivision?: Subdivision
  eased?: Content
  note?: string
  school?: PickSchool
  freeTime?: boolean
  /** Varies this figure; only the bars that differ are kept. */
  varies?: string
  /** Follows this pattern of the plan. */
  pattern?: string
  /** Follows another line; its own content is made by the rule. */
  follows?: Pick<LineDerivation, 'figureId' | 'interval' | 'kind' | 'exceptions'>
}
/** A hand pattern as it is played in the first bars of a figure. */
export interface PatternPlan {
  id: string
  name: string
  from: string
  bars: number
}
/** Where a figure is played: section, bar in it, passes, frets up. `beat` moves it by quarters. */
export type PlacePlan = [
  figure: string,
  section: string,
  bar: number,
  passes: number,
  options?: { frets?: number; beat?: number; other?: { pass: number; figure: string }[] },
]

export interface SongPlan {
  id: string
  title: string
  artist: string
  key: Key
  tempo: number
  drift: number
  leadInSeconds: number
  swing?: Swing
  seed: number
  /** Band tuning against names by shape in semitones, and the tape's error. */
  tuningSemitones: number
  tapeCents: number
  sections: SectionPlan[]
  parts: (Partial<Part> & { id: string; name: string; instrumentKind: Part['instrument']['kind'] })[]
  figures: FigurePlan[]
  places: PlacePlan[]
  rests: [part: string, section: string][]
  voiceProgram: number
  patterns?: PatternPlan[]
  doubts?: Song['doubts'][string][]
  spots?: Song['spots'][string][]
}

export interface Score {
  plan: SongPlan
  song: Song
  beats: FlatBeat[]
  endSeconds: number
}
const FOUR: Meter = { beats: 4, unit: 4 }

/** Beat times with a band's drift: slow wander around the section's tempo, the same for the same seed. */
function beatTimes(plan: SongPlan): { beats: FlatBeat[]; endSeconds: number } {
  const random = seededRandom(plan.seed)
  const beats: FlatBeat[] = []
  let at = plan.leadInSeconds
  let wander = 0
  for (const section of plan.sections) {
    const meter = section.meter ?? FOUR
    for (let bar = 0; bar < section.bars; bar++) {
      if (section.free) {
        beats.push({ seconds: at, one: true, free: true, meter })
        at += section.free[bar]!
        continue
      }
      for (let beat = 0; beat < countedBeats(meter); beat++) {
        beats.push({ seconds: at, one: beat === 0, ...(beat === 0 ? { meter } : {}) })
        wander = wander * 0.96 + (random() - 0.5) * plan.drift * 0.5
        at += (60 / (section.tempo ?? plan.tempo)) * (1 + Math.max(-plan.drift, Math.min(plan.drift, wander)))
      }
    }
  }
  return { beats, endSeconds: at }
}

export function buildScore(plan: SongPlan, audio: { hash: string; durationSeconds?: number }): Score {
  const { beats, endSeconds } = beatTimes(plan)
  const soundingKey = transposeKey(plan.key, plan.tuningSemitones)
  let song = { ...newSong({ id: plan.id, title: plan.title, artist: plan.artist }) }
  const run = <Name extends TransactionName>(name: Name, args: ArgsOf<Name>): void => {
    song = must(transact(song, name, args)).song
  }
  run('setFacts', {
    key: soundingKey,
    feel: { subdivision: 'eighths', swing: plan.swing ?? { ratio: 0.5, level: 'eighths' } },
  })
  run('addSource', {
    source: {
      id: 'record',
      kind: 'recording',
      name: `${plan.title} (studio recording)`,
      rank: 1,
      offsetSemitones: 0,
      offsetCents: plan.tapeCents,
      offsetSeconds: 0,
      audioHash: audio.hash,
      durationSeconds: audio.durationSeconds ?? endSeconds + 2,
    },
  })
  run('setBeats', { beats, endSeconds, what: 'lay out the beats', newSectionId: 'whole' })
  let before = 'whole'
  plan.sections.forEach((section, index) => {
    if (index === 0) return
    const cut = plan.sections[index - 1]!.bars
    run('splitSection', {
      sectionId: before,
      atBar: cut,
      newId: section.id,
      name: section.name,
      kind: section.kind,
    })
    before = section.id
  })
  const sectionId = (id: string): string => (id === plan.sections[0]!.id ? 'whole' : id)
  for (const section of plan.sections) {
    run('changeSection', {
      sectionId: sectionId(section.id),
      set: {
        name: section.name,
        kind: section.kind,
        passes: section.passes ?? 1,
        harmony: harmonyOf(section, soundingKey, plan.tuningSemitones),
        ...(section.key ? { key: transposeKey(section.key, plan.tuningSemitones) } : {}),
      },
    })
    if (section.returns)
      run('setReturn', {
        sectionId: sectionId(section.id),
        returns: {
          sectionId: sectionId(section.returns),
          shiftSemitones: section.shift ?? 0,
          withDifferences: true,
        },
      })
  }
  for (const { instrumentKind, ...part } of plan.parts) {
    const fresh = newPart({ id: part.id, name: part.name, kind: instrumentKind })
    const tuning =
      plan.tuningSemitones === 0
        ? fresh.tuning
        : {
            name: plan.tuningSemitones === -1 ? 'Half step down' : `${plan.tuningSemitones} semitones`,
            openMidi: fresh.tuning.openMidi.map((midi) => midi + plan.tuningSemitones),
            shapeOffset: plan.tuningSemitones,
          }
    run('addPart', { part: { ...fresh, tuning, ...part } })
  }
  const patterns = new Map((plan.patterns ?? []).map((pattern) => [pattern.from, pattern]))
  for (const figure of plan.figures) {
    const meter = figure.meter ?? FOUR
    const full: Figure = {
      id: figure.id,
      partId: figure.part,
      name: figure.name,
      lengthTicks: figure.bars * barTicks(meter),
      meter,
      feel: {
        subdivision: figure.subdivision ?? 'eighths',
        swing: plan.swing ?? { ratio: 0.5, level: 'eighths' },
      },
      content: figure.content,
      ...(figure.eased ? { eased: figure.eased } : {}),
      ...(figure.note ? { note: figure.note } : {}),
      ...(figure.school ? { school: figure.school } : {}),
      ...(figure.freeTime ? { freeTime: true } : {}),
    }
    const pattern = patterns.get(figure.id)
    if (pattern)
      run('setPattern', {
        pattern: {
          id: pattern.id,
          name: pattern.name,
          meter,
          lengthTicks: pattern.bars * barTicks(meter),
          strokes: patternStrokes(figure.content, { from: 0, to: pattern.bars * barTicks(meter) }),
        },
      })
    const linked: Figure = {
      ...full,
      ...(figure.varies ? { variationOf: { figureId: figure.varies, replacedBars: [] } } : {}),
      ...(figure.pattern ? { pattern: { patternId: figure.pattern, ownBars: [] } } : {}),
    }
    run('addFigure', { figure: { ...linked, ...storeContent(song, linked, figure.content) } })
    if (figure.follows) {
      const derivedFrom = { ...figure.follows, key: soundingKey }
      const line = must(derivedLine(song, song.figures[figure.id]!, derivedFrom))
      run('changeFigure', {
        figureId: figure.id,
        what: 'follow',
        set: { derivedFrom, content: derivedContent(song.figures[derivedFrom.figureId]!.content, line) },
      })
    }
  }
  plan.places.forEach(([figureId, section, bar, passes, options], index) => {
    const meter = plan.sections.find((entry) => entry.id === section)!.meter ?? FOUR
    run('setPlacement', {
      placement: {
        kind: 'figure',
        id: `p${index}`,
        partId: song.figures[figureId]!.partId,
        sectionId: sectionId(section),
        startTicks: bar * barTicks(meter) + (options?.beat ?? 0) * TICKS_PER_QUARTER,
        figureId,
        passes,
        shiftFrets: options?.frets ?? 0,
        form: 'exact',
        ...(options?.other
          ? { passFigures: options.other.map(({ pass, figure }) => ({ pass, figureId: figure })) }
          : {}),
      },
    })
  })
  plan.rests.forEach(([partId, section], index) => {
    const entry = song.sections[sectionId(section)]!
    run('setPlacement', {
      placement: {
        kind: 'rests',
        id: `r${index}`,
        partId,
        sectionId: entry.id,
        startTicks: 0,
        lengthTicks: entry.bars.reduce((sum, bar) => sum + barTicks(bar.meter), 0),
      },
    })
  })
  for (const doubt of plan.doubts ?? [])
    run('setDoubt', {
      doubt: { ...doubt, place: { ...doubt.place, sectionId: sectionId(doubt.place.sectionId) } },
    })
  for (const spot of plan.spots ?? [])
    run('setSpot', {
      spot: { ...spot, place: { ...spot.place, sectionId: sectionId(spot.place.sectionId) } },
    })
  return { plan, song, beats, endSeconds }
}

/** Chord events of a section, sounding. Each lasts until the next. */
export function harmonyOf(
  section: SectionPlan,
  key: Key,
  semitones: number,
): { startTicks: number; lengthTicks: number; symbol: string }[] {
  const bar = barTicks(section.meter ?? FOUR)
  const half =
    section.meter && countedBeats(section.meter) !== 4
      ? beatTicks(section.meter) * Math.floor(countedBeats(section.meter) / 2)
      : bar / 2
  const starts = section.chords.flatMap((text, index) =>
    text.split('>').map((symbol, place) => ({
      startTicks: index * bar + place * half - (symbol.startsWith('^') ? TICKS_PER_QUARTER / 2 : 0),
      symbol: transposeSymbol(symbol.replace('^', ''), semitones, key),
    })),
  )
  return starts
    .map((chord, index) => ({
      ...chord,
      lengthTicks: (starts[index + 1]?.startTicks ?? section.bars * bar) - chord.startTicks,
    }))
    .filter((chord) => chord.lengthTicks > 0)
}
