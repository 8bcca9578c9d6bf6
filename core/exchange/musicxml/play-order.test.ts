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
  return playOrder(childrenOf(must(readXml(`<part>${measures.join('')}</part>`, 'part')), 'measure'))
}

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

  it('never goes on for ever', () => {
    const many = Array.from({ length: 3000 }, () => '|::|9')
    expect(order(...many)).toHaveLength(5000)
  })
})
