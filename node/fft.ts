// The FFT for Node: scripts, the command line and tests. The page's workers load the same module their own
// way.
import { pffft, type MakeFft } from '../core/hear/features/spectrum'

export async function nodeFft(): Promise<MakeFft> {
  const { default: load } = (await import('@echogarden/pffft-wasm/simd')) as {
    default: () => Promise<Parameters<typeof pffft>[0]>
  }
  return pffft(await load())
}
