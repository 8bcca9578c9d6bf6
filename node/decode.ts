// Decodes compressed recordings in Node, for scripts, the command line and tests.
import decode from 'audio-decode'

export async function decodeAudio(
  bytes: Uint8Array,
): Promise<{ channels: Float32Array[]; sampleRate: number }> {
  const { channelData, sampleRate } = (await decode(bytes)) as {
    channelData: Float32Array[]
    sampleRate: number
  }
  return { channels: channelData, sampleRate }
}
