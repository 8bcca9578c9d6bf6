// All riffs of a song beside each other on one root: which degrees each uses, which scale that is, and what
// they share.
import { figureContent } from '../document/figure-content'
import { orderedParts } from '../document/form'
import type { Part, Song } from '../document/schema'
import { lineOf, pitched } from '../neck/lines/line'
import { pitchClassOf } from '../music/pitch'
import { fitScales, type LineNote } from '../music/scale'

export interface RiffScale {
  figureId: string
  name: string
  partId: string
  scale: { tonic: string; name: string }
  /** Half steps above the song’s root that are played, 0 to 11. */
  degrees: number[]
}

/** A riff is talked about from so many notes on. */
const LEAST_NOTES = 4

function riffsOf(song: Song, part: Part, root: number): RiffScale[] {
  return Object.values(song.figures)
    .filter(({ partId, variationOf }) => partId === part.id && !variationOf)
    .flatMap((figure): RiffScale[] => {
      const line: LineNote[] = lineOf(pitched(figureContent(song, figure)), part)
      const [fit] = line.length < LEAST_NOTES ? [] : fitScales(line, song.key, 1)
      if (!fit) return []
      const degrees = [...new Set(line.map(({ midi }) => (((Math.round(midi) - root) % 12) + 12) % 12))]
      return [
        {
          figureId: figure.id,
          name: figure.name,
          partId: part.id,
          scale: { tonic: fit.tonic, name: fit.name },
          degrees: degrees.sort((a, b) => a - b),
        },
      ]
    })
}

/** Riffs with notes, part by part, on the root of the song’s key; variations are left to their base. */
export function riffScales(song: Song): { root: string; riffs: RiffScale[]; shared: number[] } {
  const root = pitchClassOf(song.key.tonic)
  const riffs = orderedParts(song).flatMap((part) => riffsOf(song, part, root))
  const all = Array.from({ length: 12 }, (_, semitone) => semitone)
  const shared = riffs.length
    ? all.filter((semitone) => riffs.every(({ degrees }) => degrees.includes(semitone)))
    : []
  return { root: song.key.tonic, riffs, shared }
}
