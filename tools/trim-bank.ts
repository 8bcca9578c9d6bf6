// Makes public/sound/bank.sf3 from the freely licensed General MIDI bank in Debian's package
// fluid-soundfont-gm (FluidR3, MIT licence): the guitars, basses and drums Synchorda sounds, in the range
// they are played, Vorbis-compressed by oggenc (package vorbis-tools).
import { readFileSync, writeFileSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { SoundBankLoader, type BasicPreset } from 'spessasynth_core'
import { openBank } from '../core/sound/bank'
import { renderEvents } from '../core/sound/player'
import { centsBetween, measurePitch } from '../tests/support/pitch'

const SOURCE = '/usr/share/sounds/sf2/FluidR3_GM.sf2'
const GUITARS = [25, 27, 29, 30, 31]
const BASSES = [33, 34]
const DRUM_KEYS = [35, 36, 37, 38, 40, 41, 42, 43, 44, 45, 46, 47, 48, 49, 50, 51, 53, 55, 57, 59]
const QUALITY = 6

const everyVelocity = new Set(Array.from({ length: 127 }, (_, index) => index + 1))
const range = (from: number, to: number): number[] =>
  Array.from({ length: to - from + 1 }, (_, index) => from + index)

const encode = async (audio: Float32Array, sampleRate: number): Promise<Uint8Array> => {
  const pcm = Buffer.alloc(audio.length * 2)
  audio.forEach((value, index) =>
    pcm.writeInt16LE(Math.max(-32768, Math.min(32767, Math.round(value * 32767))), index * 2),
  )
  const result = spawnSync(
    'oggenc',
    ['-Q', '-r', '-B', '16', '-C', '1', '-R', String(sampleRate), '-q', String(QUALITY), '-o', '-', '-'],
    { input: pcm, maxBuffer: 1 << 28 },
  )
  if (result.status !== 0) throw new Error(String(result.stderr))
  return new Uint8Array(result.stdout)
}

const file = readFileSync(SOURCE)
const bank = SoundBankLoader.fromArrayBuffer(
  file.buffer.slice(file.byteOffset, file.byteOffset + file.length) as ArrayBuffer,
)
const keep = bank.presets.filter((preset) =>
  preset.isDrum
    ? preset.program === 0 && preset.name === 'Standard'
    : preset.bankMSB === 0 && preset.bankLSB === 0 && [...GUITARS, ...BASSES].includes(preset.program),
)
const keysOf = (preset: (typeof keep)[number]): number[] =>
  preset.isDrum ? DRUM_KEYS : BASSES.includes(preset.program) ? range(18, 72) : range(20, 100)
bank.trim(new Map(keep.map((preset) => [preset, new Map(keysOf(preset).map((key) => [key, everyVelocity]))])))
const SOUNDS = {
  25: 'steel',
  27: 'clean',
  29: 'driven',
  30: 'distorted',
  33: 'finger bass',
  34: 'pick bass',
} as const

/**
 * Some samples lie up to ten cents off. Plays each at a key near its root, measures, and corrects the
 * sample.
 */
async function tune(preset: BasicPreset): Promise<void> {
  const sound = SOUNDS[preset.program as keyof typeof SOUNDS]
  if (preset.isDrum || !sound) return
  const opened = await openBank(bank.writeSF2() as ArrayBuffer)
  const keys = new Map<(typeof bank.samples)[number], number[]>()
  for (const key of range(BASSES.includes(preset.program) ? 28 : 40, 81))
    for (const { sample } of preset.getVoiceParameters(key, 100))
      keys.set(sample, [...(keys.get(sample) ?? []), key])
  for (const [sample, used] of keys) {
    const key = used[used.length >> 1]!
    const audio = renderEvents(
      opened,
      [
        {
          string: 1,
          startSeconds: 0,
          endSeconds: 1.5,
          midi: key,
          curve: [],
          loudness: 0.7,
          sound,
          slurred: false,
          dead: false,
          harmonic: false,
          vibrato: 'none',
          releaseSeconds: 0.1,
        },
      ],
      { sampleRate: 44_100, seconds: 1.6 },
    )
    const hz = measurePitch(audio, 44_100, 0.6, { lowHz: 35, windowSeconds: 0.15 })
    const cents = hz ? Math.round(centsBetween(hz, key)) : 0
    if (Math.abs(cents) > 0 && Math.abs(cents) < 40) sample.pitchCorrection -= cents
  }
}
for (const preset of keep) await tune(preset)
await bank.setSampleFormat({ format: 'compressed', compressionFunction: encode })
const bytes = bank.writeSF2()
writeFileSync('public/sound/bank.sf3', Buffer.from(bytes as ArrayBuffer))
console.log(
  `public/sound/bank.sf3: ${(bytes.byteLength / 1e6).toFixed(2)} MB, ` +
    keep.map((preset) => preset.name).join(', '),
)
