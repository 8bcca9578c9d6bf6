import { describe, expect, it } from 'vitest'
import { must } from '../../result'
import { playOrder } from './play-order'
import { childrenOf, readXml } from './xml'

/** Measures from signs: "|:" begins a repeat, ":|" ends one, ":|3" plays it three times, "1." an ending. */
function order(...signs: string[]): number[] {
  const measures = signs.map((sign) => {
    const forward = sign.includes('|:') ? '<barline><repeat direction="forward"/></barline>' : ''
    const [, times] = /:\|(\d)?/.exec(sign) ?? []
    const back = sign.includes(':|')
      ? `<repeat direction="backward"${times ? ` times="${times}"` : ''}/>`
      : ''
    const [, ending] = /([\d,]+)\./.exec(sign) ?? []
    const begins = ending ? `<barline><ending number="${ending}" type="start"/></barline>` : ''
    const ends =
      ending || back
        ? `<barline>${ending ? `<ending number="${ending}" type="stop"/>` : ''}${back}</barline>`
        : ''
    return `<measure>${forward}${begins}${ends}</measure>`
  })
  return inOrder(measures).order
}
const inOrder = (measures: readonly string[]) =>
  playOrder(childrenOf(must(readXml(`<part>${measures.join('')}</part>`, 'part')), 'measure'))

const words = (text: string): string =>
  `<direction><direction-type><words>${text}</words></direction-type></direction>`
const sound = (attributes: string): string => `<sound ${attributes}/>`
const SEGNO = '<direction><direction-type><segno/></direction-type></direction>'
const CODA = '<direction><direction-type><coda/></direction-type></direction>'
const BACK = '<barline><repeat direction="backward"/></barline>'

describe('the order in which measures are played', () => {
  it.each([
    ['straight on', ['', '', ''], [0, 1, 2]],
    ['a repeat of two bars', ['', '|:', ':|', ''], [0, 1, 2, 1, 2, 3]],
    ['a repeat to the beginning', ['', ':|', ''], [0, 1, 0, 1, 2]],
    ['three times', ['|:', ':|3'], [0, 1, 0, 1, 0, 1]],
    ['two endings', ['|:', '1.:|', '2.', ''], [0, 1, 0, 2, 3]],
    ['three passes, the first two alike', ['|:', '1,2.:|', '3.', ''], [0, 1, 0, 1, 0, 2, 3]],
    ['one repeat after another', ['|:', ':|', '|:', ':|'], [0, 1, 0, 1, 2, 3, 2, 3]],
    ['a repeat after endings', ['|:', '1.:|', '2.', '|:', ':|'], [0, 1, 0, 2, 3, 4, 3, 4]],
    ['a repeat of one bar', ['|::|', ''], [0, 0, 1]],
  ])('%s', (_, signs, wanted) => expect(order(...signs)).toEqual(wanted))

  it.each<[string, string[], number[]]>([
    ['D.C. al Fine in words', ['', words('Fine'), '', words('D.C. al Fine')], [0, 1, 2, 3, 0, 1]],
    ['the same in sounds', ['', sound('fine="yes"'), '', sound('dacapo="yes"')], [0, 1, 2, 3, 0, 1]],
    ['dal segno to the end', ['', SEGNO, '', words('D.S.')], [0, 1, 2, 3, 1, 2, 3]],
    [
      'D.S. al Coda',
      ['', SEGNO, words('To Coda'), words('D.S. al Coda'), CODA, ''],
      [0, 1, 2, 3, 1, 2, 4, 5],
    ],
    ['two signs of a coda without words', [CODA, '', words('D.C. al Coda'), CODA], [0, 1, 2, 0, 3]],
    [
      'repeats before the jump, none after it',
      ['', BACK, words('D.C. al Fine'), ''],
      [0, 1, 0, 1, 2, 0, 1, 2, 3],
    ],
  ])('jumps: %s', (_, inside, wanted) => {
    expect(inOrder(inside.map((text) => `<measure>${text}</measure>`)).order).toEqual(wanted)
  })

  it('says where a jump leads nowhere, and plays straight on', () => {
    const measures = ['', words('D.S. al Coda'), ''].map((text) => `<measure>${text}</measure>`)
    expect(inOrder(measures)).toEqual({ order: [0, 1, 2], unclearJump: true })
  })

  it('plays straight on where the jump stands in a measure that is never played', () => {
    const ending = (type: string): string => `<barline><ending number="9" type="${type}"/></barline>`
    const never = `<measure>${ending('start')}${words('D.C.')}${ending('stop')}</measure>`
    expect(inOrder(['<measure/>', never, '<measure/>'])).toEqual({ order: [0, 2], unclearJump: true })
  })

  it('never goes on for ever', () => {
    const many = Array.from({ length: 3000 }, () => '|::|9')
    expect(order(...many)).toHaveLength(5000)
  })
})
