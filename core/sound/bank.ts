// The sound bank: sampled instruments read by the sound-font library; here only the question "which
// samples, tuned and shaped how, for this key".
import { BasicSoundBank, SoundBankLoader } from 'spessasynth_core'
import type { SoundingEvent } from '../score/sounding-event'

export interface Layer {
  data: Float32Array
  sampleRate: number
  /** MIDI number at which the sample sounds when played at its own rate. */
  rootMidi: number
  loop: { start: number; end: number } | undefined
  gain: number
  attackSeconds: number
  decaySeconds: number
  sustainGain: number
  releaseSeconds: number
  cutoffHz: number
}

export interface Bank {
  layers: (event: SoundingEvent) => Layer[]
}

const PROGRAMS: Record<Exclude<SoundingEvent['sound'], 'drums' | 'guest'>, number> = {
  steel: 25,
  clean: 27,
  driven: 29,
  distorted: 30,
  'finger bass': 33,
  'pick bass': 34,
}
/** The bank's program for what sounds; drums lie in a bank of their own. */
function programOf(event: Pick<SoundingEvent, 'sound' | 'harmonic' | 'program'>): number {
  if (event.sound === 'guest') return event.program ?? 0
  if (event.sound === 'drums') return 0
  return event.harmonic ? HARMONICS : PROGRAMS[event.sound]
}
const HARMONICS = 31
/** The bank's harmonics program sounds two octaves above the key played. */
const HARMONICS_SHIFT = -24

// Generator numbers of the SoundFont 2.04 specification (1998), section 8.1.2.
const GEN = {
  cutoff: 8,
  attack: 34,
  hold: 35,
  decay: 36,
  sustain: 37,
  release: 38,
  attenuation: 48,
  coarse: 51,
  fine: 52,
  sampleModes: 54,
  scale: 56,
  root: 58,
} as const
const seconds = (timecents: number): number => (timecents <= -12000 ? 0 : 2 ** (timecents / 1200))
const centibels = (value: number): number => 10 ** (-value / 200)

/**
 * Reads a SoundFont 2/3 file. Throws when the bytes are none (the bank ships with the program, so that is a
 * bug).
 */
export async function openBank(bytes: ArrayBuffer): Promise<Bank> {
  await BasicSoundBank.isSF3DecoderReady
  const bank = SoundBankLoader.fromArrayBuffer(bytes)
  const cache = new Map<string, Layer[]>()
  const preset = (program: number, drums: boolean) =>
    bank.presets.find(
      (candidate) =>
        candidate.isDrum === drums && candidate.program === program && (drums || candidate.bankMSB === 0),
    )

  const read = (program: number, drums: boolean, key: number, velocity: number): Layer[] => {
    const voices = preset(program, drums)?.getVoiceParameters(key, velocity) ?? []
    return voices.map(({ sample, generators: g }): Layer => {
      const data = sample.getAudioData()
      const override = g[GEN.root]!
      const loops = (g[GEN.sampleModes]! & 1) === 1 && sample.loopEnd > sample.loopStart + 8
      return {
        data,
        sampleRate: sample.sampleRate,
        rootMidi:
          (override >= 0 ? override : sample.originalKey) -
          g[GEN.coarse]! -
          (g[GEN.fine]! + sample.pitchCorrection) / 100,
        loop: loops ? { start: sample.loopStart, end: sample.loopEnd } : undefined,
        gain: centibels(g[GEN.attenuation]! * 0.4) / Math.sqrt(voices.length),
        attackSeconds: Math.max(0.001, seconds(g[GEN.attack]!)),
        decaySeconds: seconds(g[GEN.hold]!) + seconds(g[GEN.decay]!),
        sustainGain: centibels(g[GEN.sustain]!),
        releaseSeconds: Math.max(0.02, seconds(g[GEN.release]!)),
        cutoffHz: 8.176 * 2 ** (g[GEN.cutoff]! / 1200),
      }
    })
  }

  return {
    layers(event) {
      const drums = event.sound === 'drums'
      const program = programOf(event)
      const key = Math.round(event.midi) + (event.harmonic && !drums ? HARMONICS_SHIFT : 0)
      const velocity = Math.max(1, Math.min(127, Math.round(30 + event.loudness * 90)))
      const name = `${program}/${drums}/${key}/${velocity >> 4}`
      let layers = cache.get(name)
      if (!layers) {
        layers = read(program, drums, Math.max(0, Math.min(127, key)), velocity).map((layer) =>
          event.harmonic && !drums ? { ...layer, rootMidi: layer.rootMidi - HARMONICS_SHIFT } : layer,
        )
        cache.set(name, layers)
      }
      return layers
    },
  }
}
