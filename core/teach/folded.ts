// A part through the song in short: "Verse chug ×4, the 4th with the run". What comes again is counted, what
// differs from its base is named where it does.
import { isEmptyFigure } from '../document/figure-content'
import { sectionPlaces } from '../document/form'
import type { Figure, Song } from '../document/schema'
import { playsOfPart, type Play } from '../timeline/timeline'

export interface FoldedLine {
  sectionId: string
  name: string
  startTicks: number
  words: string
}

const SUFFIX = ['th', 'st', 'nd', 'rd']
const nth = (number: number): string => {
  const teen = number % 100 > 10 && number % 100 < 14
  return `${number}${(teen ? undefined : SUFFIX[number % 10]) ?? 'th'}`
}

/** One line a section, in the order of the song. */
export function foldedPart(song: Song, partId: string): FoldedLine[] {
  const plays = playsOfPart(song, partId)
  return sectionPlaces(song).map(({ section, startTicks }) => ({
    sectionId: section.id,
    name: section.name,
    startTicks,
    words: foldedWords(
      song,
      plays.filter(({ placement }) => placement.sectionId === section.id),
    ),
  }))
}

interface Run {
  base: Figure | undefined
  plays: Play[]
}

function foldedWords(song: Song, plays: readonly Play[]): string {
  if (plays.length === 0) return 'not charted'
  const runs: Run[] = []
  for (const play of plays) {
    const base = baseOf(song, play.figure)
    const last = runs.at(-1)
    if (last && last.base?.id === base?.id) last.plays.push(play)
    else runs.push({ base, plays: [play] })
  }
  return runs.map((run) => runWords(song, run)).join(', then ')
}

const baseOf = (song: Song, figure: Figure | undefined): Figure | undefined =>
  (figure?.variationOf && song.figures[figure.variationOf.figureId]) || figure

function runWords(song: Song, { base, plays }: Run): string {
  if (!base) return 'rests'
  if (plays.every(({ figure }) => figure && isEmptyFigure(song, figure))) return `${base.name}: not charted`
  const count = plays.length > 1 ? ` ×${plays.length}` : ''
  const others = plays.flatMap(({ figure }, index) =>
    figure && figure.id !== base.id ? [{ number: index + 1, name: shortName(figure, base) }] : [],
  )
  const [first] = others
  if (first && plays.length === 1) return `${base.name}${said(first.name)}`
  return [
    `${base.name}${count}`,
    ...others.map(({ number, name }) => `the ${nth(number)}${said(name)}`),
  ].join(', ')
}

const said = (name: string): string => (/^(with|without|as) /.test(name) ? ` ${name}` : `: ${name}`)

/** "with the run": a variation by what its name adds to that of its base. */
function shortName({ name }: Figure, base: Figure): string {
  const added = name.startsWith(base.name) ? name.slice(base.name.length).replace(/^[\s,–-]+/, '') : ''
  return added || `as ${name}`
}
