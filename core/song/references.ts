// What the schema cannot say: every id named in a song exists, orders list exactly their table, charts fit their instrument.
import type { Content, Part, Song } from './schema'

/** The first thing that is broken in a song whose shape is valid, in a sentence; undefined when sound. */
export function brokenReference(song: Song): string | undefined {
  const tables = [['section', song.sections, song.sectionOrder], ['part', song.parts, song.partOrder], ['source', song.sources, song.sourceOrder]] as const
  for (const [name, table, order] of tables) {
    if (new Set(order).size !== order.length || order.length !== Object.keys(table).length || order.some((id) => !table[id])) return `the order of the ${name}s does not match the ${name}s`
  }
  for (const table of [song.sources, song.sections, song.parts, song.figures, song.patterns, song.placements, song.doubts, song.spots]) {
    for (const [id, entity] of Object.entries(table)) if (entity.id !== id) return `an entry is filed under a wrong id (${id})`
  }
  for (const figure of Object.values(song.figures)) {
    const part = song.parts[figure.partId]
    if (!part) return `figure "${figure.name}" belongs to no part`
    for (const content of [figure.content, figure.eased]) {
      const problem = content && contentProblem(content, part, figure.lengthTicks)
      if (problem) return `figure "${figure.name}": ${problem}`
    }
    if (figure.variationOf && !song.figures[figure.variationOf.figureId]) return `figure "${figure.name}" varies a figure that is missing`
    if (variesItself(song, figure.id)) return `figure "${figure.name}" varies itself`
    if (figure.pattern && !song.patterns[figure.pattern.patternId]) return `figure "${figure.name}" follows a hand pattern that is missing`
    if (figure.derivedFrom && !song.figures[figure.derivedFrom.figureId]) return `figure "${figure.name}" follows a line that is missing`
  }
  for (const placement of Object.values(song.placements)) {
    if (!song.parts[placement.partId] || !song.sections[placement.sectionId] || (placement.kind === 'figure' && !song.figures[placement.figureId])) return 'a placement points at something missing'
    if (placement.kind === 'figure' && placement.passFigures?.some(({ figureId }) => song.figures[figureId]?.partId !== placement.partId)) return 'a pass of a placement plays something missing'
  }
  for (const section of Object.values(song.sections)) {
    if (!section.returns) continue
    if (!song.sections[section.returns.sectionId]) return `"${section.name}" returns a section that is missing`
    // Also what keeps returns from going round in a circle.
    if (song.sectionOrder.indexOf(section.returns.sectionId) >= song.sectionOrder.indexOf(section.id)) return `"${section.name}" returns a section that is not before it`
  }
  for (const { place } of [...Object.values(song.doubts), ...Object.values(song.spots)]) if (!song.sections[place.sectionId]) return 'a doubt or a spot lies in a section that is missing'
  for (const part of Object.values(song.parts)) if (part.derivedFrom && !song.parts[part.derivedFrom.partId]) return `"${part.name}" is derived from a part that is missing`
  return undefined
}

/** True when following the bases of a figure leads back to it. */
export function variesItself(song: Song, figureId: string): boolean {
  const seen = new Set([figureId])
  for (let at = song.figures[figureId]?.variationOf?.figureId; at; at = song.figures[at]?.variationOf?.figureId) { if (seen.has(at)) return true; seen.add(at) }
  return false
}

/** What cannot be played or does not fit, in a sentence that says what is nearest; undefined when sound. */
export function contentProblem(content: Content, part: Part, lengthTicks: number): string | undefined {
  const strings = part.tuning.openMidi.length
  const highest = part.instrument.fretCount - part.instrument.capo
  const taken = new Set<string>()
  for (const note of content.notes) {
    if (note.string > strings) return `there is no string ${note.string}: ${part.name} has ${strings}`
    if (note.fret > highest) return `fret ${note.fret} is beyond the neck: the highest is ${highest}`
    if (note.startTicks >= lengthTicks) return 'a note starts after the end of the figure: lengthen the figure first'
    if (taken.has(`${note.string}@${note.startTicks}`)) return `string ${note.string} already has a note at that place`
    if (note.fret === 0 && note.articulations.some((articulation) => articulation.kind === 'bend')) return 'an open string cannot be bent: fret it first'
    taken.add(`${note.string}@${note.startTicks}`)
  }
  for (const { grip, startTicks } of content.grips) {
    if (grip.strings.length !== strings) return `a grip for ${grip.strings.length} strings does not fit ${part.name} with ${strings}`
    if (grip.strings.some((string) => (string.fret ?? 0) > highest)) return `a grip reaches beyond the neck: the highest fret is ${highest}`
    if (startTicks >= lengthTicks) return 'a grip starts after the end of the figure'
  }
  if ([...content.strokes, ...content.mutes].some((event) => event.startTicks >= lengthTicks)) return 'a stroke or a muting starts after the end of the figure'
  return undefined
}
