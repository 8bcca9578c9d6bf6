// Where a score jumps: da capo and dal segno, to the end of the piece, to "Fine" or by way of the coda; said
// in the sounds of the format, or only in words.
import { childOf, childrenOf, textOf, type XmlNode } from './xml'

export interface JumpSigns {
  /** Back to the beginning or to the sign when this measure has been played for the last time. */
  jump: 'capo' | 'segno' | undefined
  segno: boolean
  /** The last measure after a jump. */
  fine: boolean
  /** After a jump it goes on from here at the coda. */
  toCoda: boolean
  coda: boolean
}

const JUMP_CAPO = /^d\.?\s*c\b\.?|da\s*capo/i
const JUMP_SEGNO = /^d\.?\s*s\b\.?|dal\s*segno/i
const FINE = /^fine\b/i
const TO_CODA = /^(to|al)\s+coda\b/i
const CODA = /^coda\b/i

/** The jumps said in a measure. */
function jumpsIn(measure: XmlNode): JumpSigns {
  const types = childrenOf(measure, 'direction').flatMap((node) => childrenOf(node, 'direction-type'))
  const words = types.flatMap((type) => childrenOf(type, 'words')).map(({ text }) => text.trim())
  const sounds = measure.children.flatMap((node) =>
    node.name === 'sound' ? [node] : childrenOf(node, 'sound'),
  )
  const sound = (name: string): boolean =>
    sounds.some(({ attributes }) => attributes[name] !== undefined && attributes[name] !== 'no')
  const said = (pattern: RegExp): boolean => words.some((text) => pattern.test(text))
  const drawn = (name: string): boolean => types.some((type) => childOf(type, name) !== undefined)
  const rehearsed = types.some((type) => CODA.test(textOf(type, 'rehearsal')))
  const toCoda = sound('tocoda') || said(TO_CODA)
  return {
    jump: jumpOf(sound('dacapo') || said(JUMP_CAPO), sound('dalsegno') || said(JUMP_SEGNO)),
    segno: sound('segno') || drawn('segno'),
    fine: sound('fine') || said(FINE),
    toCoda,
    coda: !toCoda && (sound('coda') || drawn('coda') || said(CODA) || rehearsed),
  }
}
function jumpOf(capo: boolean, segno: boolean): JumpSigns['jump'] {
  if (segno) return 'segno'
  return capo ? 'capo' : undefined
}

/** From where to where a score is played again, first and last measure, and then from which to the end. */
export interface Jump {
  /** The measure after which it jumps. */
  after: number
  from: number
  to: number
  coda: number | undefined
}

/** The jump of a score; undefined without one, `unclear` where its sign or its coda is missing. */
export function jumpOfScore(measures: readonly XmlNode[]): Jump | 'unclear' | undefined {
  const signs = measures.map(jumpsIn)
  const after = signs.findIndex(({ jump }) => jump)
  if (after < 0) return undefined
  const from = signs[after]?.jump === 'capo' ? 0 : signs.findIndex(({ segno }) => segno)
  if (from < 0 || from > after) return 'unclear'
  const codas = signs.flatMap(({ coda }, index) => (coda ? [index] : []))
  const said = signs.findIndex(({ toCoda }, index) => toCoda && index >= from)
  // Two signs of a coda without words: it leaves at the first.
  const leaves = said < 0 && codas.length > 1 ? (codas[0] ?? -1) : said
  if (leaves >= from && leaves <= after) {
    const coda = codas.findLast((index) => index > leaves)
    return coda === undefined ? 'unclear' : { after, from, to: leaves, coda }
  }
  const fine = signs.findIndex((sign, index) => sign.fine && index >= from)
  return { after, from, to: fine < 0 ? measures.length - 1 : fine, coda: undefined }
}
