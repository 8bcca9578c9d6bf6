import type { Outline } from '#core/hear/features/waveform'

const outline = shallowRef<Outline>()
/** The outline of the open song's recording. */
export const useOutline = () => outline
