// Decodes compressed recordings in Node, for scripts, the command line and tests.
import decode from 'audio-decode'

export async function decodeAudio(bytes: Uint8Array): Promise<{ mono: Float32Array; sampleRate: number }> {
  const { channelData, sampleRate } = await decode(bytes) as { channelData: Float32Array[]; sampleRate: number }
  const mono = new Float32Array(channelData[0]!.length)
  for (const channel of channelData) channel.forEach((value, index) => { mono[index]! += value / channelData.length })
  return { mono, sampleRate }
}
