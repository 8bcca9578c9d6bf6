import { expect, it } from 'vitest'
import { transact } from '../editing/transact'
import { newSong } from './new-song'
import { SongReceiver, SongSender } from './song-wire'

const song = newSong({ id: 'tidewater', title: 'Tidewater', artist: '' })
const renamed = transact(song, 'setFacts', { title: 'Low Water' })
const over = <T>(value: T): T => structuredClone(value)

it('sends a song whole once, then what changed, and arrives at the same song', () => {
  if (!renamed.ok) throw new Error(renamed.refusal.message)
  const [sender, receiver] = [new SongSender(), new SongReceiver()]
  const first = receiver.unpack(over(sender.pack(song)))
  expect(first).toEqual(song)
  const packed = over(sender.pack(renamed.value.song))
  expect(Object.keys(packed)).toEqual(['changed'])
  const second = receiver.unpack(packed)
  expect(second).toEqual(renamed.value.song)
  expect(second.parts).toBe(first.parts)
  expect(receiver.unpack(over(sender.pack(renamed.value.song)))).toBe(second)
})
it('sends another song whole, and whole again after what did not arrive', () => {
  const sender = new SongSender()
  sender.pack(song)
  expect([sender.has(song), sender.has({ ...song })]).toEqual([true, false])
  expect(sender.pack({ ...song, id: 'another' })).toHaveProperty('whole')
  sender.startAnew()
  expect(sender.has(song)).toBe(false)
  expect(sender.pack(song)).toHaveProperty('whole')
})
it('packs the song of a task and leaves a task without one alone', () => {
  const [sender, receiver] = [new SongSender(), new SongReceiver()]
  const task = { want: 'check', song, nameShift: 0 }
  expect(receiver.unpackTask(over(sender.packTask(task)))).toEqual(task)
  const other = { want: 'grips', symbol: 'Am' }
  expect(sender.packTask(other)).toBe(other)
})
