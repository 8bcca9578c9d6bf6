import 'fake-indexeddb/auto'
import { BlobReader, BlobWriter, TextReader, ZipWriter } from '@zip.js/zip.js'
import { beforeEach, describe, expect, it } from 'vitest'
import { must } from '#core/result'
import type { Song } from '#core/document/schema'
import type { Student } from '#core/teach/student'
import { run, smallSong } from '../tests/support/small-song'
import { openBackup, shelfSize, writeBackup } from './backup'
import { database } from './database'
import { hashOf } from './recording'
import { createSong, loadSong } from './song-store'

const quiet = { onProgress: (): void => undefined }
const ADA: Student = { id: 'ada', name: 'Ada', level: 'improver', handMm: 90, plans: [], log: [] }
const SOUND = new Blob([Uint8Array.from({ length: 5000 }, (_, index) => (index * 7) % 251)], {
  type: 'audio/ogg',
})

/** A song that needs the recording. */
async function songWithSound(): Promise<Song> {
  const hash = await hashOf(await SOUND.arrayBuffer())
  const song = smallSong()
  return run(song, 'changeSource', { source: { ...song.sources.rec!, audioHash: hash } })
}
const titled = async (id: string): Promise<string> => {
  const loaded = await loadSong(id)
  return 'ok' in loaded && loaded.ok ? loaded.value.song.title : 'not here'
}
async function fill(): Promise<void> {
  const song = await songWithSound()
  const hash = song.sources.rec!.audioHash!
  must(await createSong(song))
  must(await createSong({ ...song, id: 'other', title: 'Salt Lamp' }))
  await database.audio.put({ hash, name: 'take.ogg', type: SOUND.type, blob: SOUND, bytes: SOUND.size })
  await database.students.put(ADA)
}
async function empty(): Promise<void> {
  await Promise.all(database.tables.map((table) => table.clear()))
}
beforeEach(empty)

describe('the shelf in one file', () => {
  it('holds songs, recordings and students, and comes back on an empty machine', async () => {
    await fill()
    expect(await shelfSize()).toEqual({ songs: 2, students: 1, recordings: 1, bytes: 5000 })
    const { file, leftOut } = must(await writeBackup(quiet))
    expect(leftOut).toEqual([])
    await empty()
    const backup = must(await openBackup(file))
    expect(backup.songs.map(({ title, isHere }) => `${title} ${isHere}`).sort()).toEqual([
      'Paper Boat false',
      'Salt Lamp false',
    ])
    expect(must(await backup.restore('everything', quiet))).toEqual({ songs: 2, students: 1, problems: [] })
    expect([await titled('small'), await titled('other')]).toEqual(['Paper Boat', 'Salt Lamp'])
    expect(await database.students.get('ada')).toEqual(ADA)
    const [row] = await database.audio.toArray()
    expect(await hashOf(await row!.blob.arrayBuffer())).toBe(row!.hash)
  })

  it('says what is here already, and leaves it alone when only what is missing is wanted', async () => {
    await fill()
    const { file } = must(await writeBackup(quiet))
    must(await createSong({ ...smallSong(), title: 'Changed since' }))
    await database.songs.delete('other')
    const backup = must(await openBackup(file))
    expect(backup.songs.find(({ id }) => id === 'small')!.isHere).toBe(true)
    expect(must(await backup.restore('missing', quiet)).songs).toBe(1)
    expect([await titled('small'), await titled('other')]).toEqual(['Changed since', 'Salt Lamp'])
    expect(must(await backup.restore('everything', quiet)).songs).toBe(2)
    expect(await titled('small')).toBe('Paper Boat')
  })

  it('writes a song it cannot read as left out, and all others', async () => {
    await fill()
    await database.snapshots.put({ songId: 'other', seq: 0, song: { schemaVersion: 4 } })
    const { leftOut, file } = must(await writeBackup(quiet))
    expect(leftOut).toEqual(['Salt Lamp'])
    expect(must(await openBackup(file)).songs).toHaveLength(1)
  })

  it('brings back what is sound in a damaged backup and says what is not', async () => {
    await fill()
    const zip = new ZipWriter(new BlobWriter())
    const song = await songWithSound()
    const hash = song.sources.rec!.audioHash!
    await zip.add('songs/small.json', new TextReader(JSON.stringify(song)))
    await zip.add('songs/bad.json', new TextReader('{"schemaVersion":4}'))
    await zip.add(`recordings/${hash}`, new BlobReader(new Blob(['noise'])), { level: 0 })
    await zip.add(
      'manifest.json',
      new TextReader(
        JSON.stringify({
          format: 'synchorda-shelf',
          version: 1,
          made: 'today',
          songs: [
            { id: 'small', title: 'Paper Boat', path: 'songs/small.json', recordings: [hash] },
            { id: 'bad', title: 'Bad', path: 'songs/bad.json', recordings: [] },
          ],
          recordings: [{ hash, name: 'take.ogg', type: 'audio/ogg', bytes: 5, path: `recordings/${hash}` }],
          students: [{ id: 'eve', name: 'Eve', path: '../../etc/passwd' }],
        }),
      ),
    )
    const file = await zip.close()
    await empty()
    const restored = must(await must(await openBackup(file)).restore('everything', quiet))
    expect(restored.songs).toBe(1)
    expect(restored.problems).toEqual([
      '“Paper Boat”: its recording is damaged',
      expect.stringMatching(/^“Bad”: /),
      'Eve: this student cannot be read',
    ])
    expect(await database.audio.count()).toBe(0)
  })

  it.each([
    ['nothing', new Blob([])],
    ['prose', new Blob(['Dear all, here is the shelf.'])],
    ['a picture', new Blob([Uint8Array.from([0x89, 0x50, 0x4e, 0x47])])],
  ])('is told from other files: %s', async (_, file) => {
    const result = await openBackup(file)
    expect(result.ok || result.refusal.message).toContain('not a backup of a shelf')
  })
})
