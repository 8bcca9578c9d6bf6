// Evaluation songs as sound, made when needed and kept in .cache. Two families of sound, so that nothing is
// fitted to one: "house" is the shipped bank mixed clean; "other" is a different General MIDI bank from
// Debian (package timgm6mb-soundfont), saturated, dulled, noisy and coded to MP3 (package lame).
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { openBank, type Bank } from '../../core/sound/bank'
import { readWav, writeWav } from '../../core/sound/wav'
import { decodeAudio } from '../../node/decode'
import { mix, type MixOptions } from '../mix'
import type { Stem } from '../perform-band'
import { seededRandom } from '../random'
import { compose, type Wish } from './compose'
import { performSong, type Truth } from './perform'
import type { EvaluationSong, Master } from './spec'

export type Sounds = 'house' | 'other' | 'third' | 'fourth'
const BANKS: Record<Sounds, string> = {
  house: 'public/sound/bank.sf3',
  other: '/usr/share/sounds/sf2/TimGM6mb.sf2',
  third: '/usr/share/sounds/sf2/FluidR3_GM.sf2',
  fourth: '/usr/share/sounds/sf2/OPL-3_FM_128M.sf2',
}
const SAMPLE_RATE = 22_050
const opened = new Map<Sounds, Promise<Bank>>()
export const bankOf = (sounds: Sounds): Promise<Bank> => {
  if (!opened.has(sounds)) {
    const file = readFileSync(BANKS[sounds])
    opened.set(
      sounds,
      openBank(file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer),
    )
  }
  return opened.get(sounds)!
}
export const canRender = (sounds: Sounds): boolean => existsSync(BANKS[sounds])

/** The shipped bank has no keys and no voice: guitars stand in. */
const houseStem = (stem: Stem): Stem => ({
  ...stem,
  events: stem.events.map((event) =>
    event.sound === 'guest'
      ? {
          ...event,
          sound:
            (event.program ?? 0) > 51 && (event.program ?? 0) < 87 ? ('driven' as const) : ('clean' as const),
        }
      : event,
  ),
})

/** Tilts the spectrum, adds a little hiss: another room, another engineer. */
export function colour(channel: Float32Array, random: () => number, tilt: number): Float32Array {
  let low = 0
  return channel.map((value) => {
    low += 0.18 * (value - low)
    return low * (1 + tilt) + (value - low) * (1 - tilt) + (random() - 0.5) * 0.002
  })
}
const coded = (channels: Float32Array[], rate: number, kilobits: number): Uint8Array | undefined => {
  const result = spawnSync('lame', ['-S', '-b', String(kilobits), '-', '-'], {
    input: writeWav(channels, rate),
    maxBuffer: 1 << 28,
  })
  return result.status === 0 ? new Uint8Array(result.stdout) : undefined
}

/** Hiss, and the fades over all. */
function faded(channel: Float32Array, master: Master, random: () => number): Float32Array {
  const { fadeInSeconds, fadeOutSeconds, hiss } = master
  const seconds = channel.length / SAMPLE_RATE
  return channel.map((value, index) => {
    const at = index / SAMPLE_RATE
    const rise = fadeInSeconds ? Math.min(1, 0.03 + at / fadeInSeconds) : 1
    const fall = fadeOutSeconds ? Math.min(1, (seconds - at) / fadeOutSeconds) : 1
    return (value + hiss * (random() - 0.5)) * rise * fall
  })
}

export interface Material {
  name: string
  truth: Truth
  channels: Float32Array[]
  sampleRate: number
}

type Recipe = Pick<MixOptions, 'targetRms' | 'drive' | 'reverbSeconds'>
/** How a song is mixed: as its master says, or as its family of sound does. */
function recipeOf(song: EvaluationSong, wish: Wish, sounds: Sounds, random: () => number): Recipe {
  const usual = (): number => {
    if (sounds === 'other') return 1.6
    return wish.varied ? 1 + 0.9 * random() : 1.15
  }
  return {
    targetRms: song.master?.level ?? 0.14 + 0.1 * random(),
    drive: song.master?.drive ?? usual(),
    reverbSeconds: 0.4 + random(),
  }
}

/** Another room, another engineer; the fades; the coding. */
async function finished(
  mixed: Float32Array[],
  master: Master | undefined,
  sounds: Sounds,
  random: () => number,
): Promise<Float32Array[]> {
  if (sounds === 'house') return mixed
  const tilt = (random() - 0.5) * 0.7
  const coloured = mixed.map((channel) => colour(channel, random, tilt))
  const channels = master ? coloured.map((channel) => faded(channel, master, random)) : coloured
  const kilobits = master?.coding ?? (sounds === 'other' ? 128 : 0)
  const mp3 = kilobits ? coded(channels, SAMPLE_RATE, kilobits) : undefined
  return mp3 ? (await decodeAudio(mp3)).channels : channels
}

export async function material(wish: Wish, sounds: Sounds): Promise<Material> {
  const song = compose(wish)
  const played = performSong(song)
  const random = seededRandom(wish.seed + 5)
  const recipe = {
    sampleRate: SAMPLE_RATE,
    seconds: played.endSeconds + 1.5,
    ...recipeOf(song, wish, sounds, random),
  }
  const key = createHash('sha1')
    .update(JSON.stringify(song.master ? [played, recipe, sounds, song.master] : [played, recipe, sounds]))
    .digest('hex')
    .slice(0, 16)
  const path = `.cache/evaluation/${wish.name}-${sounds}-${key}.wav`
  mkdirSync('.cache/evaluation', { recursive: true })
  if (!existsSync(path)) {
    const balance = (stem: Stem): Stem => ({ ...stem, gain: stem.gain * (0.75 + 0.5 * random()) })
    const mixed = mix(
      await bankOf(sounds),
      played.stems.map((stem) => balance(sounds === 'house' ? houseStem(stem) : stem)),
      recipe,
    )
    writeFileSync(path, writeWav(await finished(mixed, song.master, sounds, random), SAMPLE_RATE))
  }
  const { channels, sampleRate } = readWav(readFileSync(path))!
  return { name: `${wish.name} (${sounds})`, truth: played.truth, channels, sampleRate }
}
