// What is not certain yet, and what is still to be listened to.
import { z } from 'zod'
import { ok, refuse } from '../../result'
import { idSchema as id, doubtSchema, excuseSchema, spotSchema } from '../schema'
import { define, missing, withEntity } from './transaction'

/** Puts a doubt, new or changed. A settled one names the reading it was settled for. */
export const setDoubt = define(
  z.strictObject({ doubt: doubtSchema }),
  ({ doubt }, song) => `${song.doubts[doubt.id] ? 'change' : 'note'} a doubt: ${doubt.question.slice(0, 60)}`,
  (song, { doubt }) => {
    if (!song.sections[doubt.place.sectionId]) return missing('section')
    if (doubt.status === 'settled' && !doubt.readings.some((reading) => reading.id === doubt.decision))
      return refuse('doubt', 'A settled doubt says which reading holds.')
    return ok({ ...song, doubts: withEntity(song.doubts, doubt.id, doubt) })
  },
)
export const removeDoubt = define(
  z.strictObject({ doubtId: id }),
  () => 'remove a doubt',
  (song, args) =>
    song.doubts[args.doubtId]
      ? ok({ ...song, doubts: withEntity(song.doubts, args.doubtId, undefined) })
      : missing('doubt'),
)

const SPOT_WORDS = { 'to hear': 'what to listen to', remark: 'a remark', landmark: 'a landmark' }

export const setSpot = define(
  z.strictObject({ spot: spotSchema }),
  ({ spot }, song) => {
    const words = spot.text ? `: ${spot.text.slice(0, 60)}` : ''
    return `${song.spots[spot.id] ? 'change' : 'note'} ${SPOT_WORDS[spot.kind ?? 'to hear']}${words}`
  },
  (song, { spot }) =>
    song.sections[spot.place.sectionId]
      ? ok({ ...song, spots: withEntity(song.spots, spot.id, spot) })
      : missing('section'),
)
export const removeSpot = define(
  z.strictObject({ spotId: id }),
  () => 'remove a note',
  (song, { spotId }) =>
    song.spots[spotId] ? ok({ ...song, spots: withEntity(song.spots, spotId, undefined) }) : missing('note'),
)

/** Says why something the check finds is wanted; one excuse for a finding. */
export const excuseFinding = define(
  z.strictObject({ excuse: excuseSchema }),
  ({ excuse }) => `excuse a finding: ${excuse.why.slice(0, 60)}`,
  (song, { excuse }) => {
    const others = Object.entries(song.excuses).filter(([, { finding }]) => finding !== excuse.finding)
    return ok({ ...song, excuses: { ...Object.fromEntries(others), [excuse.id]: excuse } })
  },
)
export const withdrawExcuse = define(
  z.strictObject({ excuseId: id }),
  () => 'take a finding up again',
  (song, { excuseId }) =>
    song.excuses[excuseId]
      ? ok({ ...song, excuses: withEntity(song.excuses, excuseId, undefined) })
      : missing('excuse'),
)
