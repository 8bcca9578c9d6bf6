import { TICKS_PER_QUARTER } from '../time/meter'

/** Where there is no recording to follow, music runs at 100 quarters a minute. */
export const STRAIGHT_MAP_SECONDS_PER_TICK = 60 / 100 / TICKS_PER_QUARTER
