// A typed call cut into tokens with their places, so that an error can point at its word.
export interface Token {
  text: string
  at: number
  end: number
  /** First of its line. */ line: boolean
  /** Written against the token before, without a space. */ joined: boolean
}

const PIECE = /\n|\*\d+(?:\/\d+)?|[,;|()[\]~+>]|[^\s,;|()[\]~+>*]+|\*/g

/** Fretted chains like "7h9p7" and "9b2" are cut where a movement letter stands between digits. */
const CHAIN = /^\d{1,2}(?:[hpst]\d{1,2}|b\d(?:\.\d+)?|v)+$/
const CHAIN_PIECE = /\d+(?:\.\d+)?|[hpstbv]/g
const CHAIN_WORD: Record<string, string> = {
  h: 'hammer',
  p: 'pull',
  s: 'slide',
  t: 'tap',
  b: 'bend',
  v: 'vibrato',
}

export function tokens(call: string): Token[] {
  const found: Token[] = []
  let line = true
  for (const match of call.matchAll(PIECE)) {
    const [text] = match
    const at = match.index
    const joined = at > 0 && !/\s/.test(call[at - 1]!)
    if (text === '\n') {
      found.push({ text, at, end: at + 1, line: false, joined: false })
      line = true
      continue
    }
    // "low E: 0 0 3": the colon ends the string's name. A number with one is a string (3:).
    for (const piece of pieces(/^\p{L}[^:]*:$/u.test(text) ? text.slice(0, -1) : text, at)) {
      found.push({ ...piece, line, joined })
      line = false
    }
  }
  return found
}

function pieces(text: string, at: number): { text: string; at: number; end: number }[] {
  if (CHAIN.test(text))
    return [...text.matchAll(CHAIN_PIECE)].map((part) => ({
      text: CHAIN_WORD[part[0]] ?? part[0],
      at: at + part.index,
      end: at + part.index + part[0].length,
    }))
  const named = /^([A-Ga-g][#b]?\d{1,2})((?:[hpst]\d{1,2}|b\d(?:\.\d+)?|v)+)$/.exec(text)
  if (named)
    return [
      { text: named[1]!, at, end: at + named[1]!.length },
      ...[...named[2]!.matchAll(CHAIN_PIECE)].map((part) => ({
        text: CHAIN_WORD[part[0]] ?? part[0],
        at: at + named[1]!.length + part.index,
        end: at + named[1]!.length + part.index + part[0].length,
      })),
    ]
  // A movement letter against its fret: "h9", "p7", "s12".
  const move = /^([hpst])(\d{1,2})$/i.exec(text)
  if (move)
    return [
      { text: CHAIN_WORD[move[1]!.toLowerCase()]!, at, end: at + 1 },
      { text: move[2]!, at: at + 1, end: at + text.length },
    ]
  const dotted = /^(\d{1,2})\.$/.exec(text)
  if (dotted)
    return [
      { text: dotted[1]!, at, end: at + dotted[1]!.length },
      { text: 'dotted', at: at + dotted[1]!.length, end: at + text.length },
    ]
  return [{ text, at, end: at + text.length }]
}
