// A stretch of a recording at another speed, its pitch kept: rendered with the same stretcher that plays it.
import createStretch from 'signalsmith-stretch'

/** Time for the stretcher to begin: cut off again. */
const LEAD_SECONDS = 0.5

export interface StretchWish {
  fromSeconds: number
  toSeconds: number
  /** 1 is the speed of the recording. */
  speed: number
  sampleRate: number
}

/** Channels from where the stretch begins, `(to − from) / speed` seconds long. */
export async function stretchedRecording(
  channels: readonly Float32Array[],
  { fromSeconds, toSeconds, speed, sampleRate }: StretchWish,
): Promise<Float32Array[]> {
  const [from, to] = [Math.round(fromSeconds * sampleRate), Math.round(toSeconds * sampleRate)]
  const cut = channels.map((channel) => channel.slice(from, to))
  if (speed === 1) return cut
  const frames = Math.round((to - from) / speed)
  const lead = Math.round(LEAD_SECONDS * sampleRate)
  const context = new OfflineAudioContext(2, lead + frames, sampleRate)
  const node = await createStretch(context, {
    numberOfInputs: 1,
    numberOfOutputs: 1,
    outputChannelCount: [2],
  })
  node.connect(context.destination)
  await node.addBuffers(cut)
  await node.schedule({ output: LEAD_SECONDS, input: 0, rate: speed, active: true })
  const rendered = await context.startRendering()
  return [0, 1].map((channel) => rendered.getChannelData(channel).slice(lead))
}
