// Rigs of sections follow the form: what a part is played through in a section goes with it when a part of it
// becomes a section of its own, and is gone when the section is.
import { ok, type Result } from '../result'
import type { Part, Song } from '../document/schema'

type SectionRig = NonNullable<Part['sectionRigs']>[number]

/** The section before a new one that has fewer bars than it had: the new one was cut off it. */
function cutFrom(before: Song, after: Song, sectionId: string): string | undefined {
  const earlier = after.sectionOrder[after.sectionOrder.indexOf(sectionId) - 1]
  const was = earlier === undefined ? undefined : before.sections[earlier]
  return was && after.sections[earlier!]!.bars.length < was.bars.length ? earlier : undefined
}

/** Reaction. */
export function followRigs(before: Song, after: Song): Result<Song> {
  if (before.sections === after.sections && before.parts === after.parts) return ok(after)
  if (!Object.values(after.parts).some(({ sectionRigs }) => sectionRigs)) return ok(after)
  const fresh = after.sectionOrder.filter((id) => !Object.hasOwn(before.sections, id))
  const cuts = fresh.map((id) => ({ id, from: cutFrom(before, after, id) }))
  let changed = false
  const parts = Object.entries(after.parts).map(([id, part]): [string, Part] => {
    const { sectionRigs: all, ...rest } = part
    if (!all) return [id, part]
    const once = all.filter(
      (one, index) =>
        Object.hasOwn(after.sections, one.sectionId) &&
        all.findIndex(({ sectionId }) => sectionId === one.sectionId) === index,
    )
    const added = cuts.flatMap(({ id: sectionId, from }): SectionRig[] => {
      const rig = once.find((one) => one.sectionId === from)?.rig
      return rig && !once.some((one) => one.sectionId === sectionId) ? [{ sectionId, rig }] : []
    })
    if (added.length === 0 && once.length === all.length) return [id, part]
    changed = true
    const rigs = [...once, ...added]
    return [id, rigs.length ? { ...rest, sectionRigs: rigs } : rest]
  })
  return ok(changed ? { ...after, parts: Object.fromEntries(parts) } : after)
}
