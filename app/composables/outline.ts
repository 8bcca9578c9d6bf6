import type { Outline } from '#core/listen/outline'

const outline = shallowRef<Outline>()
/** The outline of the open song's recording. */
export const useOutline = () => outline
