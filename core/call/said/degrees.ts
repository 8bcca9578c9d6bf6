// "one, three, five": numbers without any string, in a key, are its degrees.
import { diatonic } from '../../neck/lines/harmony-rule'
import { pitchClassOf } from '../../music/pitch'
import type { CallContext } from '../reading'
import { way, type Place } from './hand'
import type { Item } from './items'
import type { Lexeme } from './lexemes'

const HIGHEST_FRET = 9

/** Where a pitch lies nearest to the hand, in the low positions. */
function placeOf(context: CallContext, midi: number, from: Place | undefined): Place | undefined {
  const places = context.part.tuning.openMidi.flatMap((open, index): Place[] =>
    midi - open >= 0 && midi - open <= HIGHEST_FRET ? [{ string: index + 1, fret: midi - open }] : [],
  )
  const price = (place: Place): number => (from ? way(from, place) : place.fret)
  return places.sort((a, b) => price(a) - price(b))[0]
}

/** The notes of a call that is degrees and nothing else; undefined where frets may be meant. */
export function degreeItems(list: readonly Lexeme[], context: CallContext): Item[] | undefined {
  const { key } = context
  const standing = context.before ?? context.content
  if (!key || context.string !== undefined || standing?.notes.length || standing?.grips.length)
    return undefined
  const numbers = list.filter((word) => word.kind === 'number')
  const only = list.every(
    (word) => word.kind === 'number' || word.kind === 'stop' || ['and', 'then'].includes(word.text),
  )
  if (!only || numbers.length < 3 || numbers.some((word) => word.value < 1 || word.value > 8))
    return undefined
  const lowest = Math.min(...context.part.tuning.openMidi)
  const tonic = lowest + ((((pitchClassOf(key.tonic) - lowest) % 12) + 12) % 12)
  let from: Place | undefined
  const items: Item[] = []
  for (const word of numbers) {
    const place = placeOf(context, diatonic(tonic, word.value, key), from)
    if (!place) return undefined
    from = place
    items.push({
      k: 'note',
      fret: place.fret,
      dead: false,
      count: 1,
      marks: [],
      strings: [{ number: place.string }],
      at: word.at,
      end: word.end,
    })
  }
  return items
}
