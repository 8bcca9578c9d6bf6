import { readFileSync, writeFileSync } from 'node:fs'
import { strToU8, zipSync } from 'fflate'
import { writeSongFile } from '../../core/exchange/song-file'
import { must } from '../../core/result'
import { readSong } from '../../core/document/migrations'
import { writeWav } from '../../core/sound/wav'
import { expect, openDemo, openShelf, restIn, saved, test } from './support'

const song = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
const tone = (seconds: number, rate = 8000): Uint8Array =>
  writeWav([Float32Array.from({ length: seconds * rate }, (_, index) => 0.3 * Math.sin(index / 6))], rate)

/** A WAV header that promises more than follows. */
function cutOff(): Uint8Array {
  return tone(20).slice(0, 60_000)
}
/** A header alone that promises three hours. */
function threeHours(): Uint8Array {
  const bytes = tone(2)
  const view = new DataView(bytes.buffer)
  view.setUint32(40, 3 * 3600 * 16_000, true)
  view.setUint32(4, 3 * 3600 * 16_000 + 36, true)
  return bytes
}

const RECORDINGS: [string, Uint8Array, RegExp][] = [
  ['lyrics.mp3', strToU8('these are words, not sound'), /not a sound file/],
  ['nothing.wav', new Uint8Array(0), /is empty/],
  ['half.wav', cutOff(), /cut off/],
  ['lecture.wav', threeHours(), /180 minutes; a song may last 15/],
  ['silence.wav', writeWav([new Float32Array(16_000)], 8000), /silent from beginning to end/],
  ['click.wav', tone(0.2), /less than half a second/],
]

test('what is no usable recording is refused in a sentence, and nothing is left behind', async ({ page }) => {
  await openShelf(page)
  for (const [name, bytes, sentence] of RECORDINGS) {
    await page.getByTestId('new-song').click()
    await page.getByTestId('new-title').locator('input').fill('Try')
    await page.getByTestId('audio-file').setInputFiles({ name, mimeType: '', buffer: Buffer.from(bytes) })
    await page.getByTestId('create').click()
    await expect(page.getByTestId('new-problem')).toHaveText(sentence, { timeout: 20_000 })
    await page.getByRole('button', { name: 'Cancel' }).click()
  }
  await expect(page.getByTestId('song')).toHaveCount(3)
})

for (const name of [
  'tone.mp3',
  'tone.ogg',
  'tone.opus',
  'tone.flac',
  'tone.m4a',
  'tone-8bit.wav',
  'tone-96k.wav',
  'tone-6ch.wav',
]) {
  test(`${name} becomes a song`, async ({ page }) => {
    await openShelf(page)
    await page.getByTestId('new-song').click()
    await page.getByTestId('audio-file').setInputFiles(`tests/fixtures/audio/${name}`)
    await page.getByTestId('create').click()
    await expect(page).toHaveURL(/setup/, { timeout: 30_000 })
    await page.goto(page.url().replace('setup', 'listen'))
    await expect(page.getByText('not laid out in bars yet')).toBeVisible()
  })
}

test('song files that are foreign, damaged or dangerous are refused; a newer one opens read-only', async ({
  page,
}, info) => {
  await openShelf(page)
  const manifest = strToU8(JSON.stringify({ format: 'synchorda-song', formatVersion: 1, contains: [] }))
  const files: [string, Uint8Array, RegExp][] = [
    ['text.zip', strToU8('no zip'), /damaged or no song file/],
    ['other.zip', zipSync({ 'a.txt': strToU8('x') }), /not a Synchorda song file/],
    ['up.zip', zipSync({ '../up.json': strToU8('x') }), /names files outside itself/],
    [
      'bomb.zip',
      zipSync({ 'manifest.json': manifest, 'song.json': new Uint8Array(9_000_000) }),
      /unpack to far more/,
    ],
    ['torn.zip', writeSongFile(song).slice(0, 900), /damaged/],
    [
      'wrong.zip',
      zipSync({
        'manifest.json': manifest,
        'song.json': strToU8(JSON.stringify({ ...song, partOrder: [] })),
      }),
      /damaged: the order of the parts/,
    ],
  ]
  for (const [name, bytes, sentence] of files) {
    await page
      .getByTestId('song-file')
      .setInputFiles({ name, mimeType: 'application/zip', buffer: Buffer.from(bytes) })
    await expect(page.getByTestId('shelf-problem')).toHaveText(sentence)
  }
  await expect(page.getByTestId('song')).toHaveCount(3)
  const newer = info.outputPath('newer.zip')
  writeFileSync(
    newer,
    zipSync({
      'manifest.json': manifest,
      'song.json': strToU8(JSON.stringify({ ...song, id: 'newer', schemaVersion: 9, weather: 'rain' })),
    }),
  )
  await page.getByTestId('song-file').setInputFiles(newer)
  await expect(page.getByTestId('read-only')).toBeVisible()
  await page.keyboard.press('r')
  await restIn(page, 'bridge-g1')
  await expect(page.getByTestId('notice')).toContainText('newer Synchorda')
})

test('impossible entries are refused where they are typed', async ({ page }) => {
  await openDemo(page, 'setup')
  const pitch = page.getByLabel('Pitch of string 6')
  await pitch.fill('H9')
  await pitch.press('Tab')
  await expect(page.getByText('is no pitch')).toBeVisible()
  await pitch.fill('C9')
  await pitch.press('Tab')
  await expect(page.getByText('No string of a guitar or bass')).toBeVisible()
  await page.goto('/song/salt-on-the-signal/chart?figure=pickup')
  await page.getByTestId('tab-grip').click()
  const bars = page.getByTestId('bars').locator('input')
  for (const [typed, words] of [
    ['-2', 'at least 0.25'],
    ['1000000', 'at most 512'],
  ] as const) {
    await bars.fill(typed)
    await bars.press('Tab')
    await expect(page.getByTestId('bars')).toContainText(words)
  }
  await page.getByTestId('grip-text').locator('input').fill('9999')
  await page.getByTestId('grip-text').locator('input').press('Enter')
  await expect(page.getByText('Write 6 strings from low to high')).toBeVisible()
  await page.getByTestId('grip-text').locator('input').fill('x-30-x-x-x-x')
  await page.getByTestId('grip-text').locator('input').press('Enter')
  await expect(page.getByTestId('notice')).toContainText('beyond the neck: the highest fret is 22')
  await expect(page.getByTestId('save-state')).toHaveText('saved')
})

test('a second window on a song follows and may write when the first is closed', async ({
  page,
  context,
}) => {
  await openDemo(page, 'map')
  const second = await context.newPage()
  await second.goto('/song/salt-on-the-signal/map')
  await expect(second.getByTestId('read-only')).toBeVisible()
  await restIn(page, 'bridge-g1')
  await saved(page)
  await expect(second.getByTestId('cell-bridge-g1')).toHaveText(/rests/)
  await restIn(second, 'solo-g1')
  await expect(second.getByTestId('notice')).toContainText('another window')
  await page.close()
  await expect(second.getByTestId('read-only')).toHaveCount(0)
  await second.getByTestId('notice').getByRole('button', { name: 'OK' }).click()
  await restIn(second, 'solo-g1')
  await expect(second.getByTestId('cell-solo-g1')).toHaveText(/rests/)
})

test('a full disk is said at once, the work stays open and can be saved as a file', async ({ page }) => {
  await openDemo(page, 'map')
  await page.evaluate(() => {
    IDBObjectStore.prototype.add = () => {
      throw new DOMException('full', 'QuotaExceededError')
    }
  })
  await restIn(page, 'bridge-g1')
  await expect(page.getByTestId('notice')).toContainText('storage is full')
  await expect(page.getByTestId('save-state')).toHaveText('not saved')
  await expect(page.getByTestId('cell-bridge-g1')).toHaveText(/rests/)
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save the song as a file' }).click(),
  ])
  expect(file.suggestedFilename()).toBe('salt-on-the-signal.synchorda.zip')
})
