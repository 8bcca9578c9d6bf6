// Plausible names for the letters of a form, each with its reason. A convention of rock and pop songs,
// never more than a suggestion.
import type { SectionKind } from '../document/schema'

export interface LetteredSection {
  label: string
  bars: number
  start: number
  end: number
  loudness?: number | undefined
}
export interface NamedSection {
  kind: SectionKind
  name: string
  why: string
}

const TITLES: Partial<Record<SectionKind, string>> = {
  'pre-chorus': 'Pre-chorus',
  'drum break': 'Drum break',
}
const title = (kind: SectionKind): string => TITLES[kind] ?? kind[0]!.toUpperCase() + kind.slice(1)
const times = (count: number): string => ['', 'once', 'twice'][count] || `${count} times`

export function nameSections(sections: readonly LetteredSection[]): NamedSection[] {
  const byLetter = new Map<string, number[]>()
  sections.forEach((section, index) =>
    byLetter.set(section.label, [...(byLetter.get(section.label) ?? []), index]),
  )
  const loudness = (letter: string): number => {
    const members = byLetter.get(letter)!
    return members.reduce((sum, index) => sum + (sections[index]!.loudness ?? 0), 0) / members.length
  }
  const returning = [...byLetter].filter(([, members]) => members.length > 1).map(([letter]) => letter)
  // The chorus: what returns most, the louder and later of equals.
  const chorus = returning
    .slice()
    .sort(
      (a, b) =>
        byLetter.get(b)!.length - byLetter.get(a)!.length ||
        loudness(b) - loudness(a) ||
        byLetter.get(b)![0]! - byLetter.get(a)![0]!,
    )
    .sort((a, b) => score(b) - score(a))[0]
  function score(letter: string): number {
    return (
      byLetter.get(letter)!.length +
      0.35 * (loudness(letter) - Math.min(...returning.map(loudness))) +
      (byLetter.get(letter)![0]! > 1 ? 0.4 : 0) -
      (sections[byLetter.get(letter)![0]!]!.bars < 6 ? 0.8 : 0)
    )
  }
  const kinds = new Map<string, { kind: SectionKind; why: string }>()
  if (chorus)
    kinds.set(chorus, {
      kind: 'chorus',
      why: `returns ${times(byLetter.get(chorus)!.length - 1)}${returning.every((other) => loudness(other) <= loudness(chorus)) && returning.length > 1 ? ', the loudest of what returns' : ''}`,
    })
  const firstChorus = chorus ? byLetter.get(chorus)![0]! : sections.length
  for (const letter of returning) {
    if (letter === chorus) continue
    const members = byLetter.get(letter)!
    const leadsIn =
      chorus !== undefined && members.filter((index) => sections[index + 1]?.label === chorus).length
    const short = sections[members[0]!]!.bars <= 4
    if (short && leadsIn && leadsIn >= members.length / 2 && sections[members[0]! - 1])
      kinds.set(letter, {
        kind: 'pre-chorus',
        why: `${sections[members[0]!]!.bars} bars that lead into the chorus`,
      })
    else if (members[0]! === 0 && short)
      kinds.set(letter, { kind: 'intro', why: 'opens the song and comes back between' })
    else if (![...kinds.values()].some((entry) => entry.kind === 'verse'))
      kinds.set(letter, { kind: 'verse', why: `returns ${times(members.length - 1)} before the chorus` })
    else kinds.set(letter, { kind: 'interlude', why: `returns ${times(members.length - 1)}` })
  }
  const counts = new Map<SectionKind, number>()
  const named = sections.map((section, index): { kind: SectionKind; why: string } => {
    const known = kinds.get(section.label)
    if (known && !(known.kind === 'verse' && index === 0 && section.bars <= 4)) return known
    if (section.label === 'free') return { kind: 'intro', why: 'no pulse yet' }
    if (index === 0) return { kind: 'intro', why: 'the first, and it does not return' }
    if (index === sections.length - 1) return { kind: 'outro', why: 'the last, and heard only there' }
    if (index < firstChorus && ![...kinds.values()].some((entry) => entry.kind === 'verse')) {
      kinds.set(section.label, { kind: 'verse', why: 'before the first chorus' })
      return kinds.get(section.label)!
    }
    return index > sections.length / 2
      ? { kind: 'bridge', why: 'heard once, in the second half' }
      : { kind: 'interlude', why: 'heard once' }
  })
  return named.map(({ kind, why }) => {
    const count = (counts.get(kind) ?? 0) + 1
    counts.set(kind, count)
    const alone = named.filter((other) => other.kind === kind).length === 1
    return { kind, name: alone ? title(kind) : `${title(kind)} ${count}`, why }
  })
}
