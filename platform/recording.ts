// From a file to a recording the application can use, or a sentence why not. Nothing is stored before
// everything has succeeded.
import { ok, refuse, type Result } from '#core/result'
import { foldDown, mendSamples } from './samples'

const LONGEST_SECONDS = 15 * 60
/** A few broken samples are mended; a recording with more of them is not worth charting from. */
const MOST_BROKEN = 0.02
const LARGEST_BYTES = 700 * 1024 * 1024
/** A recording whose loudest sample is below −60 dB is silent. */
const SILENCE = 0.001

export interface Recording {
  channels: Float32Array[]
  sampleRate: number
  durationSeconds: number
  /** Share of the samples that were no sound and were silenced. */
  brokenShare: number
  /** Its loudest sample; 1 is full scale. */
  peak: number
}
export interface Imported extends Recording {
  hash: string
  blob: Blob
  name: string
}

export async function hashOf(bytes: ArrayBuffer): Promise<string> {
  return [...new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))]
    .map((byte) => byte.toString(16).padStart(2, '0'))
    .join('')
}

/** Seconds the file says it lasts, read without decoding it; undefined when the player cannot tell. */
function statedDuration(blob: Blob): Promise<number | undefined> {
  return new Promise((resolve) => {
    const url = URL.createObjectURL(blob)
    const audio = new Audio()
    const finish = (value: number | undefined): void => {
      clearTimeout(timer)
      URL.revokeObjectURL(url)
      audio.removeAttribute('src')
      resolve(value)
    }
    const timer = setTimeout(() => finish(undefined), 4000)
    audio.preload = 'metadata'
    audio.onloadedmetadata = () => finish(Number.isFinite(audio.duration) ? audio.duration : undefined)
    audio.onerror = () => finish(undefined)
    audio.src = url
  })
}

/** What a WAV header promises in seconds, to notice a file that was cut off; undefined for other formats. */
function promisedWavSeconds(bytes: ArrayBuffer): number | undefined {
  const view = new DataView(bytes)
  if (bytes.byteLength < 44 || view.getUint32(0) !== 0x52494646 || view.getUint32(8) !== 0x57415645)
    return undefined
  let rate = 0
  for (let at = 12; at + 8 <= bytes.byteLength;) {
    const size = view.getUint32(at + 4, true)
    if (view.getUint32(at) === 0x666d7420) rate = view.getUint32(at + 16, true)
    if (view.getUint32(at) === 0x64617461) return rate && size < 0xfffffff0 ? size / rate : undefined
    at += 8 + size + (size & 1)
  }
  return undefined
}

/** Decodes compressed or plain audio to at most two channels at the given rate, broken samples mended. */
export async function decodeRecording(bytes: ArrayBuffer, sampleRate: number): Promise<Recording> {
  const context = new OfflineAudioContext(2, 1, sampleRate)
  const buffer = await context.decodeAudioData(bytes)
  const channels = Array.from({ length: buffer.numberOfChannels }, (_, index) => buffer.getChannelData(index))
  const kept = channels.length > 2 ? await foldDown(channels) : channels
  const mended = await mendSamples(kept)
  return { channels: kept, sampleRate: buffer.sampleRate, durationSeconds: buffer.duration, ...mended }
}

const minutes = (seconds: number): number => Math.round(seconds / 60)
const tooLong = (name: string, seconds: number): Result<never> =>
  refuse(
    'too-long',
    `“${name}” lasts ${minutes(seconds)} minutes; a song may last 15. Cut the song out of it first.`,
  )

/** What is wrong with a file before it is read, by its size and what it says of itself. */
function fileProblem(file: Blob, name: string): Result<never> | undefined {
  if (file.size === 0) return refuse('empty', `“${name}” is empty. Choose another file.`)
  if (file.size <= LARGEST_BYTES) return undefined
  return refuse('too-large', `“${name}” is larger than 700 MB. Save it in a compressed format and try again.`)
}

/** What is wrong with the sound that came out of a file; `expected` is how long the file said it is. */
function soundProblem(
  recording: Recording,
  name: string,
  expected: number | undefined,
): Result<never> | undefined {
  const { durationSeconds, brokenShare, peak } = recording
  if (expected !== undefined && durationSeconds < expected * 0.9 - 0.5)
    return refuse(
      'cut-off',
      `“${name}” is cut off: it should last ${Math.round(expected)} seconds, ` +
        `but the sound ends after ${Math.round(durationSeconds)}. Copy or download it again.`,
    )
  if (durationSeconds > LONGEST_SECONDS + 1) return tooLong(name, durationSeconds)
  if (durationSeconds < 0.5)
    return refuse('too-short', `“${name}” lasts less than half a second: there is no song in it.`)
  if (brokenShare > MOST_BROKEN)
    return refuse(
      'broken',
      `“${name}” is broken: ${Math.round(100 * brokenShare)} % of its samples are no sound. ` +
        'Save or copy it again.',
    )
  if (peak >= SILENCE) return undefined
  return refuse(
    'silent',
    `“${name}” is silent from beginning to end. Check how it was recorded and choose another file.`,
  )
}

/** What a promise gives, or a rejection once nobody waits any more: the browser decodes on by itself. */
function orAborted<T>(work: Promise<T>, signal: AbortSignal | undefined): Promise<T> {
  if (!signal) return work
  return new Promise((resolve, reject) => {
    signal.addEventListener('abort', () => reject(new Error('aborted')), { once: true })
    work.then(resolve, reject)
  })
}

/**
 * Reads, checks and decodes a recording at the given rate. Refused in words for whatever is wrong with
 * it.
 */
export async function importRecording(
  file: Blob & { name?: string },
  sampleRate: number,
  onProgress: (words: string, fraction: number) => void,
  signal?: AbortSignal,
): Promise<Result<Imported>> {
  const name = file.name ?? 'recording'
  const refusedFile = fileProblem(file, name)
  if (refusedFile) return refusedFile
  const stopped = refuse('cancelled', 'Stopped: nothing was stored.')
  onProgress('reading the file', 0.05)
  const stated = await statedDuration(file)
  if (signal?.aborted) return stopped
  if (stated !== undefined && stated > LONGEST_SECONDS + 1) return tooLong(name, stated)
  const bytes = await file.arrayBuffer()
  onProgress('checking the file', 0.2)
  const hash = await hashOf(bytes)
  const promised = promisedWavSeconds(bytes)
  if (promised !== undefined && promised > LONGEST_SECONDS + 1) return tooLong(name, promised)
  onProgress('decoding the sound', 0.35)
  const recording = await orAborted(decodeRecording(bytes.slice(0), sampleRate), signal).catch(
    () => undefined,
  )
  if (signal?.aborted) return stopped
  if (!recording)
    return refuse(
      'not-audio',
      `“${name}” is not a sound file this browser can read, or it is damaged. ` +
        'WAV, MP3, Ogg, Opus, FLAC and M4A work.',
    )
  const refusedSound = soundProblem(recording, name, promised ?? stated)
  if (refusedSound) return refusedSound
  onProgress('decoded', 0.7)
  const blob = new Blob([bytes], { type: file.type || 'application/octet-stream' })
  return ok({ ...recording, hash, blob, name })
}
