// What a content must be to be played on a part: strings there are, frets on the neck, inside its figure.
import type { Content, Grip, Part } from '../schema'

/** What cannot be played or does not fit, in a sentence that says what is nearest; undefined when sound. */
export function contentProblem(content: Content, part: Part, lengthTicks: number): string | undefined {
  const neck = {
    strings: part.tuning.openMidi.length,
    highest: part.instrument.fretCount - part.instrument.capo,
    name: part.name,
  }
  return (
    notesProblem(content, neck, lengthTicks) ??
    gripsProblem(content, neck, lengthTicks) ??
    handProblem(content, neck, lengthTicks)
  )
}

interface Neck {
  strings: number
  highest: number
  name: string
}

function notesProblem(content: Content, neck: Neck, lengthTicks: number): string | undefined {
  const taken = new Set<string>()
  for (const note of content.notes) {
    if (note.string > neck.strings)
      return `there is no string ${note.string}: ${neck.name} has ${neck.strings}`
    if (note.fret > neck.highest)
      return `fret ${note.fret} is beyond the neck: the highest is ${neck.highest}`
    if (note.startTicks >= lengthTicks)
      return 'a note starts after the end of the figure: lengthen the figure first'
    if (taken.has(`${note.string}@${note.startTicks}`))
      return `string ${note.string} already has a note at that place`
    if (note.fret === 0 && note.marks.some((mark) => mark.kind === 'bend'))
      return 'an open string cannot be bent: fret it first'
    taken.add(`${note.string}@${note.startTicks}`)
  }
  return undefined
}

function gripsProblem(content: Content, neck: Neck, lengthTicks: number): string | undefined {
  for (const { grip, startTicks } of content.grips) {
    const problem = gripProblem(grip, neck)
    if (problem) return problem
    if (startTicks >= lengthTicks) return 'a grip starts after the end of the figure'
  }
  return undefined
}

function gripProblem(grip: Grip, neck: Neck): string | undefined {
  if (grip.strings.length !== neck.strings)
    return `a grip for ${grip.strings.length} strings does not fit ${neck.name} with ${neck.strings}`
  if (grip.strings.some((string) => (string.fret ?? 0) > neck.highest))
    return `a grip reaches beyond the neck: the highest fret is ${neck.highest}`
  const { barre } = grip
  if (!barre) return undefined
  if (Math.max(barre.fromString, barre.toString) > neck.strings)
    return `a barre reaches beyond the ${neck.strings} strings of ${neck.name}`
  return barre.fret > neck.highest
    ? `a barre lies beyond the neck: the highest fret is ${neck.highest}`
    : undefined
}

function handProblem(content: Content, neck: Neck, lengthTicks: number): string | undefined {
  if ([...content.strokes, ...content.mutes].some((event) => event.startTicks >= lengthTicks))
    return 'a stroke or a muting starts after the end of the figure'
  return content.strokes.some((stroke) => stroke.strings?.some((string) => string > neck.strings))
    ? `a stroke takes a string that ${neck.name} does not have`
    : undefined
}
