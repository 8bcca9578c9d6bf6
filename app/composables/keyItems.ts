import { nameAtFifths, pitchClassOf, pretty } from '#core/music/pitch'

/** Tonics to choose from, from C upwards, with flats and sharps as signs. */
export const TONIC_ITEMS = Array.from({ length: 15 }, (_, index) => nameAtFifths(index - 6))
  .sort((a, b) => pitchClassOf(a) - pitchClassOf(b) || a.localeCompare(b))
  .map((name) => ({ title: pretty(name), value: name }))
