// Commas, new lines, bar lines and brackets.
import { setLength } from './events'
import { barLine } from './places'
import { endClause, fail, groupHere, type Reading } from './reading'
import { repeatGroup } from './repeats'
import type { Token } from './tokens'

/** The end of a stretch of muting. */
function closeSpan(r: Reading, token: Token): void {
  const span = r.spans.pop()
  if (!span) fail(r, token, 'This bracket closes no muting.')
  if (r.at <= span.startTicks) fail(r, token, 'There is nothing inside this muting.')
  r.mutes.push({
    kind: span.kind,
    startTicks: span.startTicks,
    lengthTicks: r.at - span.startTicks,
    ...(span.pressure ? { pressure: span.pressure } : {}),
  })
  r.i++
}

export function readPunctuation(r: Reading, token: Token): boolean {
  switch (token.text) {
    case ',':
    case ';':
      r.i++
      endClause(r)
      return true
    case '\n':
      r.i++
      endClause(r)
      endLine(r)
      return true
    case '|':
      r.i++
      barLine(r, token)
      endClause(r)
      return true
    case '(':
      r.i++
      endClause(r)
      r.open.push(groupHere(r))
      return true
    case ')': {
      const group = r.open.pop()
      if (!group) fail(r, token, 'This bracket closes nothing.')
      r.i++
      endClause(r)
      r.closed = group
      return true
    }
    case '[':
      fail(r, token, 'A square bracket begins a stretch of muting: write palm firm [ … ] or ring [ … ].', [
        'palm firm [',
        'ring [',
      ])
    // eslint-disable-next-line no-fallthrough -- fail never returns
    case ']':
      closeSpan(r, token)
      return true
    default:
      return readStar(r, token)
  }
}

function readStar(r: Reading, token: Token): boolean {
  // "( … ) x4", as it is written on a chart.
  const times = r.closed && /^[x×](\d{1,2})$/i.exec(token.text)
  if (times && r.list[r.i - 1]?.text === ')') {
    r.i++
    repeatGroup(r, r.closed!, Number(times[1]), token)
    return true
  }
  if (!token.text.startsWith('*')) return false
  const [top, bottom] = token.text.slice(1).split('/').map(Number)
  if (!top) fail(r, token, 'A star wants a number: 7*3 is three steps long, ( … ) *2 is played twice.')
  r.i++
  if (r.closed) {
    repeatGroup(r, r.closed, top, token)
    return true
  }
  setLength(r, Math.round((r.step * top) / (bottom || 1)), token)
  return true
}

function endLine(r: Reading): void {
  if (r.events.length > r.line.first) r.lineBefore = { ...r.line, endTicks: r.at, end: r.events.length }
  r.line = groupHere(r)
}
