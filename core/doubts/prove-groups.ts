// What is to be proved, by cause: ninety places that are not charted yet are one thing to see, and what
// cannot be so comes before what is only to be looked at.
import { isRemark, type ProveItem } from './prove-list'

export interface ProveGroup {
  key: string
  /** The cause: "not charted". */
  cause: string
  /** In the order of the song. */
  items: ProveItem[]
}

/** Cannot be so; a question that is open; not done yet; to be heard; may be wanted; a remark. */
function weight(item: ProveItem): number {
  if (item.done) return isRemark(item.kind) ? 5 : 6
  if (item.kind === 'finding') return { wrong: 0, missing: 2, look: 4 }[item.finding.severity]
  return item.kind === 'doubt' ? 1 : 3
}

const causeOf = (item: ProveItem): string => (item.kind === 'finding' ? item.finding.kind : item.kind)

/** Items of one cause together, what matters most first; causes that matter alike as the song has them. */
export function proveGroups(items: readonly ProveItem[]): ProveGroup[] {
  const groups = new Map<string, ProveGroup & { weight: number }>()
  for (const item of items) {
    const key = `${weight(item)}/${causeOf(item)}`
    const group = groups.get(key) ?? { key, cause: causeOf(item), items: [], weight: weight(item) }
    group.items.push(item)
    groups.set(key, group)
  }
  return [...groups.values()]
    .sort((a, b) => a.weight - b.weight)
    .map(({ key, cause, items: own }) => ({ key, cause, items: own }))
}
