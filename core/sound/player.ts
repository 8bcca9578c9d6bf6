// A lean sample player: sounding events in, mono sound out, block by block. One voice a note, so bends,
// palm mutes and damping stay on their string. Measured against the library's synthesiser (docs/sound.md):
// a five-part chart renders many times faster than real time, and bends arrive exactly.
import type { Pressure } from '../document/schema'
import type { Bank, Layer } from './bank'
import type { SoundingEvent } from '../score/sounding-event'

/**
 * How the edge of the hand on the bridge shortens and darkens a note: time to fall by 60 dB, and the
 * low-pass above it.
 */
const PALM: Record<Pressure, { fallSeconds: number; cutoffHz: number; gain: number }> = {
  light: { fallSeconds: 1.1, cutoffHz: 3200, gain: 1 },
  medium: { fallSeconds: 0.55, cutoffHz: 2000, gain: 1.1 },
  firm: { fallSeconds: 0.28, cutoffHz: 1300, gain: 1.2 },
}
const DEAD_FALL_SECONDS = 0.09
/** The noise of a hand that scrapes: no fall, softer, its filter climbing from here with the hand. */
const SCRAPE = { gain: 0.35, lowHz: 700, attackSeconds: 0.03 }
const VIBRATO = { none: 0, narrow: 0.22, wide: 0.5 } as const
const VIBRATO_HZ = 5.2
const CONTROL_FRAMES = 32

interface Voice {
  event: SoundingEvent
  layer: Layer
  startFrame: number
  endFrame: number
  phase: number
  age: number
  low: number
  band: number
  gain: number
  fall: number
  fallStep: number
  noise: number
  done: boolean
}

/** The level of a layer at its age: attack, decay, what it sustains. */
function levelAt(
  layer: { attackSeconds: number; decaySeconds: number; sustainGain: number },
  age: number,
): number {
  if (age < layer.attackSeconds) return age / layer.attackSeconds
  if (layer.decaySeconds <= 0 || layer.sustainGain >= 1) return 1
  return Math.max(layer.sustainGain, 10 ** ((-5 * (age - layer.attackSeconds)) / layer.decaySeconds))
}

const semitonesAt = (curve: SoundingEvent['curve'], seconds: number): number => {
  if (curve.length === 0) return 0
  if (seconds <= curve[0]!.seconds) return curve[0]!.semitones
  for (let i = 1; i < curve.length; i++) {
    const b = curve[i]!
    if (seconds > b.seconds) continue
    const a = curve[i - 1]!
    // A finger accelerates and settles: cosine between the points.
    const share =
      (1 - Math.cos((Math.PI * (seconds - a.seconds)) / Math.max(1e-6, b.seconds - a.seconds))) / 2
    return a.semitones + share * (b.semitones - a.semitones)
  }
  return curve.at(-1)!.semitones
}

/** Seconds in which a note falls by 60 dB; undefined where the string rings as the bank has it. */
function fallOf({ dead, scraped, palmMute }: SoundingEvent): number | undefined {
  if (scraped) return undefined
  if (dead) return DEAD_FALL_SECONDS
  return palmMute && PALM[palmMute].fallSeconds
}

/** Renders events (times in seconds from frame 0) in order. Call `render` for one block after the other. */
export class SamplePlayer {
  private next = 0
  private frame = 0
  private voices: Voice[] = []
  private events: SoundingEvent[]

  constructor(
    private readonly bank: Bank,
    events: readonly SoundingEvent[],
    private readonly sampleRate: number,
  ) {
    this.events = [...events].sort((a, b) => a.startSeconds - b.startSeconds)
  }

  /** True when nothing sounds any more and nothing is to come. */
  get finished(): boolean {
    return this.next >= this.events.length && this.voices.length === 0
  }

  /** More events, all of them later than what has been played. */
  add(events: readonly SoundingEvent[]): void {
    if (events.length === 0) return
    const waiting = [...this.events.slice(this.next), ...events]
    this.events = waiting.sort((a, b) => a.startSeconds - b.startSeconds)
    this.next = 0
  }

  /** Adds the next `out.length` frames to `out`. */
  render(out: Float32Array): void {
    const end = this.frame + out.length
    while (this.next < this.events.length && this.events[this.next]!.startSeconds * this.sampleRate < end)
      this.start(this.events[this.next++]!)
    for (const voice of this.voices) this.renderVoice(voice, out)
    this.voices = this.voices.filter((voice) => !voice.done)
    this.frame = end
  }

  private start(event: SoundingEvent): void {
    const startFrame = Math.max(this.frame, Math.round(event.startSeconds * this.sampleRate))
    // The same string struck again: what rang there stops within a few milliseconds.
    for (const voice of this.voices)
      if (event.sound !== 'drums' && voice.event.string === event.string && voice.startFrame < startFrame)
        voice.endFrame = Math.min(voice.endFrame, startFrame)
    const palm = event.palmMute ? PALM[event.palmMute] : undefined
    const fallSeconds = fallOf(event)
    for (const layer of this.bank.layers(event)) {
      this.voices.push({
        event,
        layer,
        startFrame,
        endFrame: Math.round(event.endSeconds * this.sampleRate),
        phase: event.slurred ? layer.sampleRate * 0.012 : 0,
        age: 0,
        low: 0,
        band: 0,
        gain: layer.gain * event.loudness ** 1.6 * (event.scraped ? SCRAPE.gain : (palm?.gain ?? 1)),
        fall: 1,
        fallStep: fallSeconds ? 10 ** (-3 / (fallSeconds * this.sampleRate)) : 1,
        noise: 22222 + event.string * 7919,
        done: false,
      })
      if (event.dead) break
    }
  }

  private envelope(voice: Voice, frame: number): number {
    const { layer, event } = voice
    const age = (frame - voice.startFrame) / this.sampleRate
    let level = event.scraped ? Math.min(1, age / SCRAPE.attackSeconds) : levelAt(layer, age)
    if (event.slurred && age < 0.008) level *= age / 0.008
    if (frame > voice.endFrame) {
      const release =
        event.sound === 'drums' ? layer.releaseSeconds : Math.min(layer.releaseSeconds, event.releaseSeconds)
      level *= Math.exp((-5 * (frame - voice.endFrame)) / (release * this.sampleRate))
    }
    return level
  }

  private renderVoice(voice: Voice, out: Float32Array): void {
    const { layer, event } = voice
    const palm = event.palmMute ? PALM[event.palmMute] : undefined
    const cutoff = event.dead
      ? 1500
      : Math.min(
          layer.cutoffHz,
          event.cutoffHz ?? 20_000,
          palm ? palm.cutoffHz + 0.5 * 440 * 2 ** ((event.midi - 69) / 12) : 20_000,
        )
    const still = cutoff < 16_000 ? this.filterStep(cutoff) : 0
    const offset = Math.max(0, voice.startFrame - this.frame)
    for (let block = offset; block < out.length && !voice.done; block += CONTROL_FRAMES) {
      const frame = this.frame + block
      const stop = Math.min(out.length, block + CONTROL_FRAMES)
      const age = (frame - voice.startFrame) / this.sampleRate
      const shake =
        VIBRATO[event.vibrato] *
        Math.min(1, Math.max(0, (age - 0.12) / 0.2)) *
        Math.sin(2 * Math.PI * VIBRATO_HZ * age)
      const moved = event.curve.length ? semitonesAt(event.curve, age) : 0
      const pitch = event.midi + moved + shake
      const f = event.scraped ? this.filterStep(SCRAPE.lowHz * 2 ** (moved / 12)) : still
      const step =
        (layer.sampleRate / this.sampleRate) *
        (event.sound === 'drums' ? 1 : 2 ** ((pitch - layer.rootMidi) / 12))
      const level = this.envelope(voice, frame) * voice.gain
      const levelStep = (this.envelope(voice, frame + CONTROL_FRAMES) * voice.gain - level) / CONTROL_FRAMES
      if (event.dead) this.fillNoise(voice, stop - block)
      else this.fillSamples(voice, step, stop - block)
      this.addBlock(voice, out, block, stop, { level, levelStep, f })
      if (voice.fall < 3e-4 || (frame > voice.endFrame && level < 2e-4 * voice.gain + 1e-6)) voice.done = true
    }
  }

  /** How far the low-pass follows in one frame. */
  private filterStep(cutoffHz: number): number {
    return Math.min(1, 2 * Math.sin(Math.PI * Math.min(0.22, cutoffHz / this.sampleRate)))
  }

  private readonly scratch = new Float32Array(CONTROL_FRAMES)

  /** Filters and shapes the scratch block and adds it to the output. */
  private addBlock(
    voice: Voice,
    out: Float32Array,
    from: number,
    to: number,
    shape: { level: number; levelStep: number; f: number },
  ): void {
    const { scratch } = this
    const { f, levelStep } = shape
    let { level } = shape
    let { fall, low, band } = voice
    const { fallStep } = voice
    for (let i = from, k = 0; i < to; i++, k++) {
      let sample = scratch[k]!
      if (f > 0) {
        // State-variable low-pass (Chamberlin 1985), damped enough not to ring.
        low += f * band
        band += f * (sample - low - 1.2 * band)
        sample = low
      }
      out[i] = out[i]! + sample * level * fall
      fall *= fallStep
      level += levelStep
    }
    voice.fall = fall
    voice.low = low
    voice.band = band
  }

  /**
   * The next samples of a voice, four-point interpolated (Catmull–Rom), looping where the bank says so. The
   * hot loop: kept flat on purpose.
   */
  private fillSamples(voice: Voice, step: number, count: number): void {
    const { data, loop } = voice.layer
    const { scratch } = this
    const limit = loop ? loop.end : data.length
    const turn = loop ? loop.end - loop.start : 0
    const beyond = (at: number): number => (loop ? data[at - turn]! : 0)
    let phase = voice.phase
    for (let k = 0; k < count; k++) {
      if (loop) while (phase >= limit) phase -= turn
      else if (phase >= limit) {
        voice.done = true
        scratch.fill(0, k, count)
        break
      }
      const index = phase | 0
      const t = phase - index
      const p0 = index > 0 ? data[index - 1]! : 0
      const p1 = data[index]!
      const p2 = index + 1 < limit ? data[index + 1]! : beyond(index + 1)
      const p3 = index + 2 < limit ? data[index + 2]! : beyond(index + 2)
      scratch[k] =
        p1 + 0.5 * t * (p2 - p0 + t * (2 * p0 - 5 * p1 + 4 * p2 - p3 + t * (3 * (p1 - p2) + p3 - p0)))
      phase += step
    }
    voice.phase = phase
  }

  /**
   * Pitchless: the click of damped strings. A small generator (Numerical Recipes, 1992) keeps renders
   * repeatable.
   */
  private fillNoise(voice: Voice, count: number): void {
    for (let k = 0; k < count; k++) {
      voice.noise = (Math.imul(voice.noise, 1664525) + 1013904223) | 0
      this.scratch[k] = (voice.noise / 0x7fffffff) * 1.1
    }
  }
}

/** Renders events whole. For tests, exports and the command line. */
export function renderEvents(
  bank: Bank,
  events: readonly SoundingEvent[],
  options: { sampleRate: number; seconds: number },
): Float32Array {
  const out = new Float32Array(Math.ceil(options.seconds * options.sampleRate))
  const player = new SamplePlayer(bank, events, options.sampleRate)
  for (let at = 0; at < out.length; at += 4096)
    player.render(out.subarray(at, Math.min(out.length, at + 4096)))
  return out
}
