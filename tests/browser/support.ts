import AxeBuilder from '@axe-core/playwright'
import { expect, test as base, type Page } from '@playwright/test'
import { must } from '../../core/result'
import { newPart, newSong } from '../../core/document/new-song'
import { EMPTY_CONTENT, type Song } from '../../core/document/schema'
import { applyPatch, type Patch } from '../../core/document/patch'
import { transact } from '../../core/editing/transact'
import type { ArgsOf, TransactionName } from '../../core/document/transactions'
import { TICKS_PER_QUARTER as Q } from '../../core/time/meter'
import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { decodeAudio } from '../../node/decode'
import { writeWav } from '../../core/sound/wav'

/** Every test watches: no error in the console, no request to another origin. */
export const test = base.extend<{ watched: string[] }>({
  watched: [
    async ({ page, baseURL }, use) => {
      const seen: string[] = []
      page.on('console', (message) => {
        if (message.type() === 'error') seen.push(`console: ${message.text()}`)
      })
      page.on('pageerror', (error) => seen.push(`error: ${error.message}`))
      page.on('request', (request) => {
        if (!request.url().startsWith(baseURL!) && !/^(blob|data):/.test(request.url()))
          seen.push(`request: ${request.url()}`)
      })
      await use(seen)
      expect(seen).toEqual([])
    },
    { auto: true },
  ],
})
export { expect }

export async function openShelf(page: Page): Promise<void> {
  await page.goto('/')
  await expect(page.getByTestId('song')).toHaveCount(3)
}
export const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveText('saved')

export async function openDemo(page: Page, step: string, id = 'salt-on-the-signal'): Promise<void> {
  await openShelf(page)
  await goWithin(page, `/song/${id}/${step}`)
  await expect(page.getByTestId('save-state')).toBeVisible()
}

/** The recording is decoded: what starts to play from here on has it. */
export const recordingReady = (page: Page) =>
  expect(page.getByText('loading the recording…')).toBeHidden({ timeout: 30_000 })

/** Empties a cell of the map. */
export async function clearCell(page: Page, cell: string): Promise<void> {
  const place = page.getByTestId(`cell-${cell}`)
  await expect(async () => {
    await place.click({ position: { x: 20, y: 12 } })
    await page.keyboard.press('Delete')
    await expect(place).toHaveText('not charted', { timeout: 300 })
  }).toPass({ timeout: 8000 })
}
/** The song as it is kept in the browser, with what the journal has changed since. */
export async function songOf(page: Page, id = 'salt-on-the-signal'): Promise<Song> {
  const { song, patches } = await page.evaluate(async (songId) => {
    const open = indexedDB.open('synchorda')
    const db = await new Promise<IDBDatabase>((resolve) => {
      open.onsuccess = () => resolve(open.result)
    })
    const all = <T>(table: string): Promise<T[]> =>
      new Promise((resolve) => {
        const got = db.transaction(table).objectStore(table).getAll()
        got.onsuccess = () => resolve(got.result as T[])
      })
    const rows = await all<{ songId: string; song: unknown }>('snapshots')
    const journal = await all<{ songId: string; patch: unknown }>('journal')
    db.close()
    return {
      song: rows.find((row) => row.songId === songId)!.song,
      patches: journal.filter((entry) => entry.songId === songId).map((entry) => entry.patch),
    }
  }, id)
  return patches.reduce<Song>((now, patch) => applyPatch(now, patch as Patch), song as Song)
}
/** Whatever is in a cell: the part rests there. */
export async function restIn(page: Page, cell: string): Promise<void> {
  await page.getByTestId(`cell-${cell}`).click()
  await page.keyboard.press('Delete')
  await page.getByTestId('rests').click()
}

/**
 * A stretch of a shipped recording as a WAV file that nobody has heard yet; `speed` plays it slower and
 * lower.
 */
export async function unheardWav(
  name: string,
  span: { from: number; to: number; speed?: number },
): Promise<Buffer> {
  const { channels, sampleRate } = await decodeAudio(readFileSync(`public/demo/${name}.ogg`))
  const speed = span.speed ?? 1
  const cut = channels.map((channel) =>
    Float32Array.from({ length: Math.floor(((span.to - span.from) * sampleRate) / speed) }, (_, index) => {
      const at = span.from * sampleRate + index * speed
      const whole = Math.floor(at)
      return channel[whole]! + (at - whole) * ((channel[whole + 1] ?? 0) - channel[whole]!)
    }),
  )
  return Buffer.from(writeWav(cut, sampleRate))
}
export async function songFromRecording(page: Page, title: string, buffer: Buffer): Promise<void> {
  await openShelf(page)
  await page.getByTestId('new-song').click()
  await page.getByTestId('new-title').locator('input').fill(title)
  await page.getByTestId('audio-file').setInputFiles({ name: `${title}.wav`, mimeType: 'audio/wav', buffer })
  await page.getByTestId('create').click()
  await expect(page).toHaveURL(/setup/, { timeout: 30_000 })
}

/** A page of a sheet is one picture of thousands of strokes: axe need not go through them. */
function takeOutDrawings(): void {
  const kept = [...document.querySelectorAll('.paper-page svg')].map((svg) => {
    const drawing = document.createDocumentFragment()
    drawing.append(...svg.childNodes)
    return { svg, drawing }
  })
  Object.assign(window, { putBack: () => kept.forEach(({ svg, drawing }) => svg.append(drawing)) })
}

/**
 * Says what axe finds, in a line each. `rules`: of the rules these (in the dark the same page has other
 * colours and nothing else); `inside`: only in this part of the page.
 */
export async function violations(
  page: Page,
  { rules, inside }: { rules?: readonly string[] | undefined; inside?: string } = {},
): Promise<string[]> {
  await page.evaluate(takeOutDrawings)
  const axe = new AxeBuilder({ page }).options({
    // What is well need not be listed.
    resultTypes: ['violations'],
    ...(rules ? { runOnly: { type: 'rule', values: [...rules] } } : {}),
  })
  if (inside) axe.include(inside)
  const { violations: found } = await axe.analyze()
  await page.evaluate(() => (window as { putBack?: () => void }).putBack?.())
  return found.map(
    (violation) =>
      `${violation.id}: ${violation.nodes
        .slice(0, 3)
        .map((node) => `${node.target.join(' ')} ${node.any[0]?.message ?? ''}`)
        .join(' | ')}`,
  )
}

const run = <Name extends TransactionName>(song: Song, name: Name, args: ArgsOf<Name>): Song =>
  must(transact(song, name, args)).song

/**
 * A recording with a click on every beat, on the left only, and a song whose bass plays those beats, on the
 * right only.
 */
export function clickSong(): { song: Song; wav: Uint8Array; hash: string } {
  const rate = 44_100
  // A pulse that drifts, so that following it matters.
  const beats = Array.from({ length: 32 }, (_, index) => 0.5 + index * 0.5 + 0.06 * Math.sin(index / 4))
  const left = new Float32Array(rate * 18)
  for (const beat of beats)
    for (let i = 0; i < 900; i++)
      left[Math.round(beat * rate) + i] = 0.8 * Math.exp(-i / 150) * Math.sin((2 * Math.PI * 1000 * i) / rate)
  const wav = writeWav([left, new Float32Array(left.length)], rate)
  const hash = createHash('sha256').update(wav).digest('hex')
  let song = newSong({ id: 'clicks', title: 'Clicks', artist: 'The Sample Four' })
  song = run(song, 'addSource', {
    source: {
      id: 'record',
      kind: 'recording',
      name: 'clicks.wav',
      rank: 1,
      offsetSemitones: 0,
      offsetCents: 0,
      offsetSeconds: 0,
      audioHash: hash,
      durationSeconds: 18,
    },
  })
  song = run(song, 'setBeats', {
    beats: beats.map((seconds, index) => ({ seconds, one: index % 4 === 0 })),
    endSeconds: 16.6,
    what: 'beats',
    newSectionId: 'all',
  })
  song = run(song, 'addPart', { part: { ...newPart({ id: 'g', name: 'Guitar', kind: 'guitar-6' }), pan: 1 } })
  const notes = Array.from({ length: 4 }, (_, beat) => ({
    id: `n${beat}`,
    string: 1,
    fret: 12,
    startTicks: beat * Q,
    lengthTicks: Q / 2,
    marks: [],
  }))
  song = run(song, 'addFigure', {
    figure: {
      id: 'beat',
      partId: 'g',
      name: 'Beat',
      lengthTicks: 4 * Q,
      meter: { beats: 4, unit: 4 },
      feel: song.feel,
      content: { ...EMPTY_CONTENT, notes },
    },
  })
  song = run(song, 'setPlacement', {
    placement: {
      kind: 'figure',
      id: 'p',
      partId: 'g',
      sectionId: 'all',
      startTicks: 0,
      figureId: 'beat',
      passes: 8,
      shiftFrets: 0,
      form: 'exact',
    },
  })
  return { song, wav, hash }
}

/** Records what reaches the loudspeakers, from the next start on: call before the page loads. */
export async function tapSound(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const store = { left: [] as Float32Array[], right: [] as Float32Array[], rate: 0 }
    Object.assign(window, { heard: store })
    const connect = AudioNode.prototype.connect as (...args: unknown[]) => unknown
    AudioNode.prototype.connect = function (this: AudioNode, ...args: unknown[]) {
      const target = args[0]
      if (
        target instanceof AudioDestinationNode &&
        this.context instanceof AudioContext &&
        !(this instanceof ScriptProcessorNode)
      ) {
        store.rate = this.context.sampleRate
        const tap = this.context.createScriptProcessor(4096, 2, 1)
        tap.onaudioprocess = (event) => {
          store.left.push(event.inputBuffer.getChannelData(0).slice())
          store.right.push(event.inputBuffer.getChannelData(1).slice())
        }
        connect.call(this, tap)
        connect.call(tap, target)
      }
      return connect.apply(this, args)
    } as typeof AudioNode.prototype.connect
  })
}
interface Heard {
  left: Float32Array[]
  right: Float32Array[]
  rate: number
}
export const forgetSound = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const { heard } = window as unknown as { heard: Heard }
    heard.left.length = 0
    heard.right.length = 0
  })

/** Root mean square of what was heard on the right. */
export const heardLevel = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const { heard } = window as unknown as { heard: Heard }
    const sum = heard.right.reduce(
      (total, block) => total + block.reduce((squares, value) => squares + value * value, 0),
      0,
    )
    return Math.sqrt(sum / Math.max(1, heard.right.length * 4096))
  })

/**
 * Seconds at which each side rises through a share of its loudest sample, at least 0.2 s after the sound
 * before.
 */
export const heardOnsets = (page: Page): Promise<{ left: number[]; right: number[] }> =>
  page.evaluate(() => {
    const { heard } = window as unknown as { heard: Heard }
    const onsets = (blocks: Float32Array[], share: number): number[] => {
      const peak = blocks.reduce(
        (max, block) => block.reduce((most, value) => Math.max(most, Math.abs(value)), max),
        0,
      )
      const found: number[] = []
      let last = Number.NEGATIVE_INFINITY
      blocks.forEach((block, number) =>
        block.forEach((value, index) => {
          if (Math.abs(value) < peak * share) return
          const at = (number * block.length + index) / heard.rate
          if (at - last > 0.2) found.push(at)
          last = at
        }),
      )
      return found
    }
    return { left: onsets(heard.left, 0.3), right: onsets(heard.right, 0.2) }
  })

/** Rules of accessibility that the colours of a theme decide. */
export const COLOURS = ['color-contrast'] as const
/** Goes to another page as a link does: what is loaded stays loaded. */
export async function goWithin(page: Page, address: string): Promise<void> {
  await page.evaluate((to) => {
    const { useNuxtApp } = window as unknown as {
      useNuxtApp: () => { $router: { push: (to: string) => Promise<unknown> } }
    }
    return useNuxtApp().$router.push(to)
  }, address)
}
