// A place heard: the record alone, or the chart alone, two bars round and round.
import { fromHere } from '#core/time/loops'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

export function useHearPlace() {
  const store = useSong()
  const transport = useTransport()
  let heard = ''
  let before: number | undefined
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
    if (store.map) transport.setLoop(fromHere(store.map, seconds))
    void transport.play(seconds)
  }
  onBeforeUnmount(() => {
    if (before !== undefined) transport.setBalance(before)
  })
  return {
    hearRecord: (seconds: number): void => hear('record', seconds),
    hearChart: (seconds: number): void => hear('chart', seconds),
  }
}
