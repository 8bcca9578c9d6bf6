// What is heard. One clock for both: the recording runs through the pitch-keeping stretcher, the chart is
// rendered ahead by the sound worker in blocks that are scheduled sample by sample behind each other. Both
// start at the same moment of the audio clock and follow the same map of heard to recording time, so they
// cannot drift apart, whatever the speed and however many loops.
import createStretch, { type StretchNode } from 'signalsmith-stretch'
import { copied } from './samples'
import type { Score } from '#core/sound/score'
import { heardToRecording, type StemPlan } from '#core/sound/stems'

export interface PlayRequest extends Omit<StemPlan, 'sampleRate'> {
  /** Parts of the open song, worked out where they are rendered; takes the place of the plan’s own stems. */
  score?: Score | undefined
  withRecording: boolean
}
export interface SoundPort {
  start: (plan: StemPlan & { score?: Score | undefined }, run: number) => void
  more: (frames: number) => void
  onBlocks: (receive: (run: number, names: string[], blocks: Float32Array[]) => void) => void
  dispose: () => void
}

/** From the key press to the first sound: time for the first block and the stretcher's own delay. */
const START_DELAY_SECONDS = 0.14
const FIRST_BLOCK_SECONDS = 0.12
const BLOCK_SECONDS = 0.25
const AHEAD_SECONDS = 1.2
const FADE_SECONDS = 0.012

/** Stems that are neither record nor chart. */
const CLICKS = new Set(['count-in', 'click'])

export class AudioEngine {
  readonly context: BaseAudioContext
  private readonly master: GainNode
  private readonly recordGain: GainNode
  /** Opens and closes the recording in a few milliseconds, so that starting and stopping do not click. */
  private readonly gate: GainNode
  private readonly chartGain: GainNode
  private readonly clickGain: GainNode
  private readonly stemGains = new Map<string, GainNode>()
  private readonly pans = new Map<string, StereoPannerNode>()
  private stretch: StretchNode | undefined
  private request: PlayRequest | undefined
  private startedAt = 0
  private scheduledFrames = 0
  private asked = false
  private run = 0
  private starts = 0
  private sources: AudioBufferSourceNode[] = []
  private timer: ReturnType<typeof setInterval> | undefined

  constructor(
    context: BaseAudioContext,
    private readonly sound: SoundPort,
  ) {
    this.context = context
    this.master = new GainNode(context, { gain: 0.9 })
    // Record and chart together stay below full scale.
    const guard = new DynamicsCompressorNode(context, {
      threshold: -3,
      knee: 3,
      ratio: 12,
      attack: 0.002,
      release: 0.08,
    })
    this.recordGain = new GainNode(context)
    this.chartGain = new GainNode(context)
    this.clickGain = new GainNode(context)
    this.gate = new GainNode(context, { gain: 0 })
    this.gate.connect(this.recordGain).connect(this.master)
    this.chartGain.connect(this.master)
    this.clickGain.connect(this.master)
    this.master.connect(guard).connect(context.destination)
    sound.onBlocks((run, names, blocks) => {
      if (run === this.run) this.schedule(names, blocks)
    })
  }

  /**
   * Hands the decoded recording to the stretcher. Replaces an earlier one, which stops; the last one asked
   * for is the one that stays. There is one stretcher for the life of the engine: its processor is never
   * given back by the browser, so a new one for each song would keep every song's sound.
   */
  setRecording(channels: readonly Float32Array[] | undefined): Promise<void> {
    if (this.loaded || !channels) this.stop()
    this.loaded = false
    const mine = ++this.recordings
    this.loading = this.loading
      .catch(() => undefined)
      .then(() => (mine === this.recordings ? this.load(channels) : undefined))
    return this.loading
  }
  private async load(channels: readonly Float32Array[] | undefined): Promise<void> {
    if (!this.stretch && !channels) return
    const node = await this.stretcher()
    await node.dropBuffers()
    if (!channels) return
    // In one buffer: of several, this library's processor reads past the end and falls silent for good.
    // A copy of its own: it gives its buffers back when they are dropped, which shared memory cannot be.
    const own = await copied(channels)
    await node.addBuffers(
      own,
      own.map(({ buffer }) => buffer),
    )
    this.loaded = true
  }
  /**
   * The same recording heard otherwise, without stopping: its length and times are those of the one before.
   * The channels are handed over. (Both messages are in the processor's hands before its next block.)
   */
  async replaceRecording(channels: Float32Array[]): Promise<void> {
    if (!this.stretch || !this.loaded) return
    const dropped = this.stretch.dropBuffers()
    const added = this.stretch.addBuffers(
      channels,
      channels.map((channel) => channel.buffer),
    )
    await Promise.all([dropped, added])
  }
  private async stretcher(): Promise<StretchNode> {
    if (this.stretch) return this.stretch
    // One input, though unused: without it this library's node falls silent for good when processed while
    // inactive.
    const node = await createStretch(this.context, {
      numberOfInputs: 1,
      numberOfOutputs: 1,
      outputChannelCount: [2],
    })
    node.connect(this.gate)
    this.stretch = node
    return node
  }
  private recordings = 0
  private loading: Promise<void> = Promise.resolve()
  private loaded = false

  get hasRecording(): boolean {
    return this.loaded
  }
  get playing(): boolean {
    return this.request !== undefined
  }

  /**
   * Starts or restarts. Returns the audio-clock time at which `fromSeconds` minus the lead is heard;
   * undefined when it was stopped before it could start.
   */
  async play(request: PlayRequest): Promise<number | undefined> {
    this.stop()
    const mine = ++this.starts
    if (this.context instanceof AudioContext && this.context.state !== 'running') await this.context.resume()
    // Stopped, or started anew, while the sound card was still waking up.
    if (mine !== this.starts) return undefined
    const { sampleRate } = this.context
    // On a whole sample, so that block follows block without a seam.
    this.startedAt = Math.round((this.context.currentTime + START_DELAY_SECONDS) * sampleRate) / sampleRate
    this.request = request
    this.scheduledFrames = 0
    this.run++
    this.asked = true
    this.sound.start({ ...request, sampleRate }, this.run)
    this.sound.more(Math.round(FIRST_BLOCK_SECONDS * sampleRate))
    this.gate.gain.setTargetAtTime(1, this.startedAt + request.leadSeconds - 0.005, 0.001)
    if (request.withRecording && this.loaded && this.stretch)
      void this.stretch.schedule({
        output: this.startedAt + request.leadSeconds,
        input: request.fromSeconds,
        rate: request.speed,
        active: true,
        loopStart: request.loop?.startSeconds ?? 0,
        loopEnd: request.loop?.endSeconds ?? 0,
      })
    this.timer = setInterval(() => this.feed(), 40)
    return this.startedAt
  }

  stop(): void {
    this.starts++
    if (!this.request) return
    this.request = undefined
    this.run++
    clearInterval(this.timer)
    const now = this.context.currentTime
    this.gate.gain.cancelScheduledValues(now)
    this.gate.gain.setTargetAtTime(0, now, FADE_SECONDS / 4)
    void this.stretch?.schedule({
      output: now + 2 * FADE_SECONDS,
      active: false,
      rate: 0,
      loopStart: 0,
      loopEnd: 0,
    })
    for (const gain of this.stemGains.values()) gain.gain.setTargetAtTime(0, now, FADE_SECONDS / 4)
    for (const source of this.sources) {
      try {
        source.stop(now + 2 * FADE_SECONDS)
      } catch {
        /* not started yet: nothing to stop */
      }
    }
    this.sources = []
    this.stemGains.clear()
  }

  /** Recording time heard now; undefined when stopped. */
  position(): number | undefined {
    if (!this.request) return undefined
    return heardToRecording(this.request, this.context.currentTime - this.startedAt)
  }

  /** True while the count-in is heard. */
  get countingIn(): boolean {
    return Boolean(this.request) && this.context.currentTime < this.startedAt + this.request!.leadSeconds
  }

  private balance = 0.5
  private levels = { record: 1, chart: 1, click: 1 }
  /** 0 = only the record, 1 = only the chart; both full in the middle. */
  setBalance(balance: number): void {
    this.balance = balance
    this.setGains()
  }
  /** Factors at which record and chart are equally loud, and the click’s own loudness. */
  setLevels(levels: { record: number; chart: number; click: number }): void {
    this.levels = levels
    this.setGains()
  }
  private setGains(): void {
    const now = this.context.currentTime
    const { record, chart, click } = this.levels
    const set = (node: GainNode, gain: number): void => {
      node.gain.setTargetAtTime(gain, now, 0.015)
    }
    set(this.recordGain, record * Math.min(1, 2 * (1 - this.balance)))
    set(this.chartGain, chart * Math.min(1, 2 * this.balance))
    set(this.clickGain, click)
  }

  private readonly settings = new Map<string, { gain: number; pan: number }>()
  /** Level and place of one part; takes effect at once. */
  setStem(id: string, gain: number, pan: number): void {
    this.settings.set(id, { gain, pan })
    this.stemGains.get(id)?.gain.setTargetAtTime(gain, this.context.currentTime, 0.012)
    this.pans.get(id)?.pan.setTargetAtTime(pan, this.context.currentTime, 0.012)
  }

  private stemOutput(id: string): GainNode {
    const known = this.stemGains.get(id)
    if (known) return known
    const { gain, pan } = this.settings.get(id) ?? { gain: 1, pan: 0 }
    const output = new GainNode(this.context, { gain })
    const place = new StereoPannerNode(this.context, { pan })
    output.connect(place).connect(CLICKS.has(id) ? this.clickGain : this.chartGain)
    this.stemGains.set(id, output)
    this.pans.set(id, place)
    return output
  }

  private feed(): void {
    const ahead = this.startedAt + this.scheduledFrames / this.context.sampleRate - this.context.currentTime
    if (this.asked || ahead > AHEAD_SECONDS) return
    this.asked = true
    this.sound.more(Math.round(BLOCK_SECONDS * this.context.sampleRate))
  }

  private schedule(names: string[], blocks: Float32Array[]): void {
    const { sampleRate } = this.context
    const at = this.startedAt + this.scheduledFrames / sampleRate
    const frames = blocks[0]?.length ?? 0
    blocks.forEach((block, index) => {
      if (block.every((value) => value === 0)) return
      const buffer = new AudioBuffer({ length: frames, numberOfChannels: 1, sampleRate })
      buffer.copyToChannel(block as Float32Array<ArrayBuffer>, 0)
      const source = new AudioBufferSourceNode(this.context, { buffer })
      source.connect(this.stemOutput(names[index]!))
      // A block that comes late starts inside itself, in time, rather than late.
      const late = Math.max(0, this.context.currentTime - at)
      source.start(Math.max(at, this.context.currentTime), late)
      this.sources.push(source)
      source.onended = () => {
        this.sources = this.sources.filter((other) => other !== source)
        source.disconnect()
      }
    })
    this.scheduledFrames += frames
    this.asked = false
    this.feed()
  }

  dispose(): void {
    this.stop()
    this.stretch?.disconnect()
    this.sound.dispose()
  }
}
