// A call that was understood, put where it goes.
import { enterCall, type Fitted } from '#core/call/enter'
import { everywhere, layCall, lengthFor, type CallGoes } from '#core/call/entering'
import type { ParsedCall } from '#core/call/reading'
import { figureContent } from '#core/document/figure-content'
import { storeContent } from '#core/document/figure-layers'
import type { Content, Figure } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'
import type { Bench } from './benchKeys'

/** The call at another place, `by` ticks on. */
function moved(call: ParsedCall, by: number): ParsedCall {
  const shift = <T extends { startTicks: number }>(list: readonly T[]): T[] =>
    list.map((one) => ({ ...one, startTicks: one.startTicks + by }))
  const { content } = call
  return {
    ...call,
    startTicks: call.startTicks + by,
    endTicks: call.endTicks + by,
    covered: call.covered.map((span) => ({ from: span.from + by, to: span.to + by })),
    content: {
      grips: shift(content.grips),
      strokes: shift(content.strokes),
      notes: shift(content.notes),
      mutes: shift(content.mutes),
    },
  }
}

export function useCallEntering(bench: Bench, figure: () => Figure, choose: (figureId: string) => void) {
  const store = useSong()

  function asVariation(what: string, call: ParsedCall): boolean {
    const { song } = store
    if (!song) return false
    const base = figure()
    const id = randomId()
    const count = Object.values(song.figures).filter((one) => one.variationOf?.figureId === base.id).length
    const { eased: _eased, derivedFrom: _line, licks: _licks, ...shape } = base
    const bare: Figure = {
      ...shape,
      id,
      name: `${base.name.slice(0, 64)}, variation ${count + 1}`,
      variationOf: { figureId: base.id, replacedBars: [] },
    }
    const next: Content = enterCall(figureContent(song, base), call, randomId)
    const made = store.run('enterFormCall', {
      what,
      figures: [{ ...bare, ...storeContent(song, bare, next) }],
      cells: [],
      sections: [],
      returns: [],
    })
    if (made) choose(id)
    return made
  }

  function inEvery(what: string, call: ParsedCall): boolean {
    const { song } = store
    if (!song) return false
    const places = everywhere(song, figure(), bench.tick.value)
    return store.run('changeFigures', {
      what,
      changes: places.map(({ figureId, tick }) => {
        const other = song.figures[figureId]!
        const next = enterCall(figureContent(song, other), moved(call, tick - bench.tick.value), randomId)
        return { figureId, set: storeContent(song, other, next) }
      }),
    })
  }

  /** Enters a call; one step to undo, named by it. */
  function put(what: string, call: ParsedCall, goes: CallGoes): boolean {
    const { content, edit } = bench
    switch (goes) {
      case 'here':
        return edit(what, enterCall(content.value, call, randomId))
      case 'after':
        return edit(what, enterCall(content.value, call, randomId), {
          lengthTicks: lengthFor(figure(), call),
        })
      case 'over':
        return edit(what, layCall(content.value, call, randomId))
      case 'variation':
        return asVariation(what, call)
      case 'every':
        return inEvery(what, call)
    }
  }
  function putFitted(what: string, { call, lengthTicks, meter }: Fitted): boolean {
    return bench.edit(what, enterCall(bench.content.value, call, randomId), { lengthTicks, meter })
  }
  return { put, putFitted }
}
