// "Verse 1, Verse 2, Verse 3": names that count on stay in order when a section goes.
import type { Song } from './schema'

const NUMBERED = /^(.+) (\d+)$/

/** The names that are numbered without a gap, in the order of the song. */
export function numberedNames(song: Song): ReadonlySet<string> {
  const next = new Map<string, number>()
  const broken = new Set<string>()
  for (const id of song.sectionOrder) {
    const [, base, number] = NUMBERED.exec(song.sections[id]?.name ?? '') ?? []
    if (base === undefined) continue
    const wanted = next.get(base) ?? 1
    if (Number(number) !== wanted) broken.add(base)
    next.set(base, wanted + 1)
  }
  return new Set([...next.keys()].filter((base) => !broken.has(base)))
}

/** The sections with those names counted anew; others keep the name somebody gave them. */
export function renumbered(
  sections: Song['sections'],
  order: Song['sectionOrder'],
  names: ReadonlySet<string>,
): Song['sections'] {
  const next = { ...sections }
  const counts = new Map<string, number>()
  for (const id of order) {
    const section = next[id]
    const base = NUMBERED.exec(section?.name ?? '')?.[1]
    if (!section || base === undefined || !names.has(base)) continue
    const number = (counts.get(base) ?? 0) + 1
    counts.set(base, number)
    const name = `${base} ${number}`
    if (name !== section.name) next[id] = { ...section, name }
  }
  return next
}
