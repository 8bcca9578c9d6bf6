// A place heard: the record alone, or the chart alone, two bars round and round.
import { fromHere } from '#core/time/loops'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

export function useHearPlace() {
  const store = useSong()
  const transport = useTransport()
  let heard = ''
  let before: number | undefined
  let loop: typeof transport.loop
  /** Round and round from there; the same again stops it. */
  function hear(what: 'record' | 'chart', seconds: number): void {
    const name = `${what}/${seconds}`
    if (transport.playing && heard === name) {
      transport.stop()
      return
    }
    heard = name
    before ??= transport.balance
    transport.stop()
    transport.setScope({ kind: 'song' })
    transport.setBalance(what === 'record' ? 0 : 1)
    loop = store.map && fromHere(store.map, seconds)
    if (loop) transport.setLoop(loop)
    void transport.play(seconds)
  }
  onBeforeUnmount(() => {
    if (before !== undefined) transport.setBalance(before)
    // A loop somebody has made since stays.
    if (loop && transport.loop === loop) transport.setLoop(undefined)
  })
  return {
    hearRecord: (seconds: number): void => hear('record', seconds),
    hearChart: (seconds: number): void => hear('chart', seconds),
  }
}
