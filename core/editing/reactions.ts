// What follows from a change by itself, in this order, for every transaction alike. A reaction sees the song
// before and after, changes only what follows, and refuses when nothing sensible could.
import type { Result } from '../result'
import type { Song } from '../document/schema'
import { followRigs } from './follow-rigs'
import { remakeFollowers } from '../neck/lines/derive'
import { refitPlacements } from '../timeline/refit'
import { refitPlaces } from '../timeline/refit-places'

export type Reaction = (before: Song, after: Song) => Result<Song>

export const REACTIONS: readonly Reaction[] = [refitPlaces, followRigs, remakeFollowers, refitPlacements]
