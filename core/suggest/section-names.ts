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

type Named = Omit<NamedSection, 'name'>

/** The letters of a form: where each stands, how loud it is. */
interface Letters {
  sections: readonly LetteredSection[]
  places: ReadonlyMap<string, readonly number[]>
  returning: readonly string[]
}
const placesOf = ({ places }: Letters, letter: string): readonly number[] => places.get(letter)!
function loudnessOf(letters: Letters, letter: string): number {
  const members = placesOf(letters, letter)
  return members.reduce((sum, index) => sum + (letters.sections[index]!.loudness ?? 0), 0) / members.length
}

/** What opens the song is a riff or a verse sooner than the chorus, even if it returns once more. */
const LATE = 0.8

/** The chorus: what returns most, the louder and later of equals. */
function chorusOf(letters: Letters): string | undefined {
  const { sections, returning } = letters
  const softest = Math.min(...returning.map((letter) => loudnessOf(letters, letter)))
  const score = (letter: string): number => {
    const members = placesOf(letters, letter)
    const late = members[0]! > 1 ? LATE : 0
    const short = sections[members[0]!]!.bars < 6 ? 0.8 : 0
    return members.length + 0.35 * (loudnessOf(letters, letter) - softest) + late - short
  }
  return returning.toSorted(
    (a, b) =>
      score(b) - score(a) ||
      placesOf(letters, b).length - placesOf(letters, a).length ||
      loudnessOf(letters, b) - loudnessOf(letters, a) ||
      placesOf(letters, b)[0]! - placesOf(letters, a)[0]!,
  )[0]
}

function chorusWhy(letters: Letters, chorus: string): string {
  const { returning } = letters
  const loudest = returning.every((other) => loudnessOf(letters, other) <= loudnessOf(letters, chorus))
  const louder = loudest && returning.length > 1 ? ', the loudest of what returns' : ''
  return `returns ${times(placesOf(letters, chorus).length - 1)}${louder}`
}

const isVerse = ({ kind }: Named): boolean => kind === 'verse'

/** A letter that is only played twice or more in a row is heard in one place. */
function inOneRun({ sections, places }: Letters, letter: string): Named | undefined {
  const members = places.get(letter)!
  const [first, last] = [members[0]!, members.at(-1)!]
  if (last - first !== members.length - 1 || first < sections.length / 2) return undefined
  return last === sections.length - 1
    ? { kind: 'outro', why: 'the last, and heard only there' }
    : { kind: 'bridge', why: 'heard in one place, in the second half' }
}

/** What a letter that returns, and is no chorus, is. */
function returningKind(
  letters: Letters,
  letter: string,
  chorus: string | undefined,
  known: readonly Named[],
): Named {
  const { sections } = letters
  const members = placesOf(letters, letter)
  const first = members[0]!
  const { bars } = sections[first]!
  const short = bars <= 4
  const leading = chorus ? members.filter((index) => sections[index + 1]?.label === chorus).length : 0
  if (short && leading > 1 && leading >= members.length / 2 && sections[first - 1])
    return { kind: 'pre-chorus', why: `${bars} bars that lead into the chorus` }
  const others = members.slice(1)
  const leads = others.filter((index) => sections[index + 1]?.label === chorus).length
  if (first === 0 && short && leads * 2 < others.length)
    return { kind: 'intro', why: 'opens the song and comes back between' }
  const again = `returns ${times(members.length - 1)}`
  if (known.some(isVerse)) return inOneRun(letters, letter) ?? { kind: 'interlude', why: again }
  return { kind: 'verse', why: `${again} before the chorus` }
}

function lettersOf(sections: readonly LetteredSection[]): Letters {
  const places = new Map<string, number[]>()
  sections.forEach(({ label }, index) => places.set(label, [...(places.get(label) ?? []), index]))
  const returning = [...places].filter(([, members]) => members.length > 1).map(([letter]) => letter)
  return { sections, places, returning }
}

/** The verse's music before the first verse or after the last chorus. */
function outsideOf({ sections }: Letters, index: number): Named | undefined {
  const { label, bars } = sections[index]!
  if (index === 0 && (bars <= 4 || sections[1]?.label === label))
    return { kind: 'intro', why: 'opens the song with what the verse plays' }
  return index > 0 && index === sections.length - 1
    ? { kind: 'outro', why: 'ends the song with what the verse plays' }
    : undefined
}

/** What each section is by itself; letters heard once by where they stand. */
function kindsOf(letters: Letters): Named[] {
  const { sections, returning } = letters
  const chorus = chorusOf(letters)
  const kinds = new Map<string, Named>()
  if (chorus) kinds.set(chorus, { kind: 'chorus', why: chorusWhy(letters, chorus) })
  for (const letter of returning)
    if (letter !== chorus) kinds.set(letter, returningKind(letters, letter, chorus, [...kinds.values()]))
  const firstChorus = chorus ? placesOf(letters, chorus)[0]! : sections.length
  return sections.map((section, index): Named => {
    const known = kinds.get(section.label)
    const outside = known && isVerse(known) ? outsideOf(letters, index) : undefined
    if (known) return outside ?? known
    if (section.label === 'free') return { kind: 'intro', why: 'no pulse yet' }
    if (index === 0) return { kind: 'intro', why: 'the first, and it does not return' }
    if (index === sections.length - 1) return { kind: 'outro', why: 'the last, and heard only there' }
    if (index < firstChorus && ![...kinds.values()].some(isVerse)) {
      const verse: Named = { kind: 'verse', why: 'before the first chorus' }
      kinds.set(section.label, verse)
      return verse
    }
    const late = index > sections.length / 2
    return late
      ? { kind: 'bridge', why: 'heard once, in the second half' }
      : { kind: 'interlude', why: 'heard once' }
  })
}

/** A name for every section, numbered where its kind comes more than once. */
export function nameSections(sections: readonly LetteredSection[]): NamedSection[] {
  const named = kindsOf(lettersOf(sections))
  const counts = new Map<SectionKind, number>()
  return named.map(({ kind, why }) => {
    const count = (counts.get(kind) ?? 0) + 1
    counts.set(kind, count)
    const alone = named.filter((other) => other.kind === kind).length === 1
    return { kind, name: alone ? title(kind) : `${title(kind)} ${count}`, why }
  })
}
