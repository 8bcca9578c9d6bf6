import { reactive, ref, shallowRef } from 'vue'
import { describe, expect, it } from 'vitest'
import { plain } from './plain'

describe('the border behind which nothing reactive goes', () => {
  it('copies what is observed to what can be sent and stored', () => {
    const ones = ref([1.5, 2.5])
    const form = reactive({ inner: { list: [{ deep: true }] }, map: new Map([['a', { b: 1 }]]) })
    const task = { want: 'again', given: { ones: ones.value, form } }
    expect(() => structuredClone(task)).toThrow()
    expect(structuredClone(plain(task))).toEqual({
      want: 'again',
      given: {
        ones: [1.5, 2.5],
        form: { inner: { list: [{ deep: true }] }, map: new Map([['a', { b: 1 }]]) },
      },
    })
  })
  it('hands sound on as it is, so that it can be transferred', () => {
    const samples = new Float32Array([0.25])
    const kept = shallowRef({ channels: [samples] })
    expect(plain(kept.value).channels[0]).toBe(samples)
    const blob = new Blob(['x'])
    expect(plain({ blob }).blob).toBe(blob)
  })
  it('refuses what is no data', () => expect(() => plain({ run: () => 1 })).toThrow(/function/))
})
