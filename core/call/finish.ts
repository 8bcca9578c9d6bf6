// What was said, put together: spans closed, strings of strokes settled, clashes found.
import { soundingStrings } from '../document/pattern'
import { EMPTY_CONTENT, type Grip, type GripSpan, type Note, type Stroke } from '../document/schema'
import { barTicks } from '../time/meter'
import { fail, placeOf, type ParsedCall, type Reading } from './reading'
import type { Token } from './tokens'

/** A grip nothing follows is held to the end of the figure, or of its bar. */
function heldUntil(r: Reading, startTicks: number, end: number): number {
  if (r.context.lengthTicks !== undefined) return Math.max(end, r.context.lengthTicks)
  if (end > startTicks) return end
  const bar = barTicks(r.context.meter)
  return (Math.floor(startTicks / bar) + 1) * bar
}

function gripsSaid(r: Reading, end: number): GripSpan[] {
  const holds = r.holds.toSorted((a, b) => a.startTicks - b.startTicks)
  return holds
    .map(({ startTicks, lengthTicks, grip }, index) => {
      const next = holds[index + 1]?.startTicks ?? heldUntil(r, startTicks, end)
      return { id: `g${index}`, startTicks, lengthTicks: lengthTicks ?? Math.max(1, next - startTicks), grip }
    })
    .filter((span, index, all) => !all.slice(index + 1).some((later) => later.startTicks === span.startTicks))
}

function notesSaid(r: Reading): Note[] {
  const notes = r.events
    .filter((event) => event.layer === 'note')
    .map(({ layer: _layer, token: _token, rings: _rings, ...note }, index) => ({ ...note, id: `n${index}` }))
    .sort((a, b) => a.startTicks - b.startTicks || b.string - a.string)
  const clash = notes.find((note, index) =>
    notes
      .slice(index + 1, index + 8)
      .some((other) => other.startTicks === note.startTicks && other.string === note.string),
  )
  if (!clash) return notes
  const { startTicks, string } = clash
  const last = r.events.findLast(
    (event) => event.layer === 'note' && event.startTicks === startTicks && event.string === string,
  )
  return fail(
    r,
    last!.token,
    `Two notes on one string at once: string ${string} at ${placeOf(r, startTicks)}.`,
  )
}

function strokesSaid(r: Reading, held: readonly GripSpan[]): Stroke[] {
  const said = r.events.filter((event) => event.layer === 'stroke')
  const plays = said.some((event) => event.on === 'bass')
  const strokes = said
    .map(({ layer: _layer, token, on, rings: _rings, ...stroke }, index): Stroke => {
      const strings =
        on && (on === 'bass' || plays)
          ? { strings: relativeStrings(r, on, { tick: stroke.startTicks, held, token }) }
          : {}
      return { ...stroke, ...strings, id: `s${index}` }
    })
    .sort((a, b) => a.startTicks - b.startTicks)
  const twice = strokes.find((stroke, index) => strokes[index + 1]?.startTicks === stroke.startTicks)
  if (twice) fail(r, r.list.at(-1)!, `Two strokes at once at ${placeOf(r, twice.startTicks)}.`)
  return strokes
}

/** The call as content with places of its own, from what was said of it. */
export function finishCall(r: Reading): ParsedCall {
  const begins = [
    ...r.covered.map((span) => span.from),
    ...[...r.events, ...r.holds].map((one) => one.startTicks),
  ]
  const startTicks = begins.length ? Math.min(...begins) : (r.context.startTicks ?? 0)
  const end = Math.max(r.at, r.gripEnd, ...r.events.map((event) => event.startTicks + event.lengthTicks))
  const grips = gripsSaid(r, end)
  return {
    covered: r.covered.filter((span) => span.to > span.from),
    content: {
      ...EMPTY_CONTENT,
      grips,
      strokes: strokesSaid(r, [...(r.context.content?.grips ?? []), ...grips]),
      notes: notesSaid(r),
      mutes: r.mutes.map(({ startTicks, lengthTicks, kind, pressure }, index) => ({
        id: `m${index}`,
        startTicks,
        lengthTicks,
        mark: kind === 'palm mute' ? { kind, pressure: pressure ?? 'medium' } : { kind },
      })),
    },
    startTicks,
    endTicks: end,
    stepTicks: r.step,
    string: r.string,
  }
}

/** The strings that "bass" and "chord" mean on the grip held there. */
function relativeStrings(
  r: Reading,
  on: 'bass' | 'chord',
  {
    tick,
    held,
    token,
  }: { tick: number; held: readonly { startTicks: number; lengthTicks: number; grip: Grip }[]; token: Token },
): number[] {
  const grip = held.findLast(
    (span) => span.startTicks <= tick && tick < span.startTicks + span.lengthTicks,
  )?.grip
  const sounding = grip ? soundingStrings(grip) : []
  if (sounding.length === 0)
    fail(r, token, `The ${on} of which grip? Hold one first.`, ['hold x32010', 'hold Em'])
  return on === 'bass'
    ? [sounding[0]!]
    : (sounding.length > 1 ? sounding.slice(1) : sounding).toSorted((a, b) => a - b)
}
