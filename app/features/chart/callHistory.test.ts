import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { useCallHistory } from './callHistory'

vi.mock('@vueuse/core', async () => {
  const { ref: plain } = await import('vue')
  return { useSessionStorage: (_key: string, value: unknown) => plain(value) }
})

describe('earlier calls', () => {
  const text = ref('')
  let history = useCallHistory(text)
  const say = (call: string): void => {
    text.value = call
    history.keep()
    text.value = ''
  }
  beforeEach(() => {
    text.value = ''
    history = useCallHistory(text)
    say('7 on the G')
    say('8 on the B')
  })
  it('come back the newest first, and what was being typed after them', () => {
    text.value = 'half'
    expect(history.back(0)).toBe(true)
    expect(text.value).toBe('8 on the B')
    history.back(0)
    expect(text.value).toBe('7 on the G')
    expect(history.back(0)).toBe(false)
    history.forth(0)
    history.forth(10)
    expect(text.value).toBe('half')
    expect(history.forth(4)).toBe(false)
  })
  it('leave the arrows to the text while the caret is in another line', () => {
    text.value = 'one\ntwo'
    expect(history.back(5)).toBe(false)
    expect(history.forth(1)).toBe(false)
  })
  it('are kept once each', () => {
    say('7 on the G')
    history.back(0)
    expect(text.value).toBe('7 on the G')
    history.back(0)
    expect(text.value).toBe('8 on the B')
    expect(history.back(0)).toBe(false)
  })
})
