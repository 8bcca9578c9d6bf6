declare module 'audio-type' {
  /** The name of a sound file's format from its first bytes. */
  const audioType: (head: Uint8Array) => string | undefined
  export default audioType
}
declare module 'signalsmith-stretch' {
  export interface StretchNode extends AudioWorkletNode {
    addBuffers: (channels: Float32Array[], transfer?: Transferable[]) => Promise<number>
    dropBuffers: () => Promise<unknown>
    schedule: (change: {
      output?: number
      input?: number
      rate?: number
      active?: boolean
      loopStart?: number
      loopEnd?: number
    }) => Promise<unknown>
    latency: () => Promise<number>
  }
  const create: (context: BaseAudioContext, options?: AudioWorkletNodeOptions) => Promise<StretchNode>
  export default create
}
declare module '@echogarden/pffft-wasm/simd' {
  const load: () => Promise<{
    HEAPF32: Float32Array
    _pffft_new_setup: (size: number, transform: number) => number
    _pffft_aligned_malloc: (bytes: number) => number
    _pffft_transform_ordered: (
      setup: number,
      input: number,
      output: number,
      work: number,
      direction: number,
    ) => void
  }>
  export default load
}
