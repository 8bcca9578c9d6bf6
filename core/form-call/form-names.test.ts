import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { must } from '../result'
import { readSong } from '../document/migrations'
import { figureNamed, partsNamed, plainWords, sectionsNamed, type FormContext } from './form-names'

const song = must(readSong(JSON.parse(readFileSync('demo/songs/salt-on-the-signal.json', 'utf8'))))
const context: FormContext = {
  song,
  sectionId: song.sectionOrder.find((id) => song.sections[id]!.name === 'Verse 2'),
  newId: () => 'x',
  sounding: (symbol) => symbol,
}
const sections = (words: string): string =>
  sectionsNamed(plainWords(words), context)
    .found.map((section) => section.name)
    .join(', ')
const parts = (words: string): string =>
  partsNamed(plainWords(words), context)
    .map((part) => part.name)
    .join(', ')

describe('names in a call over the form', () => {
  it.each([
    ['verse one', 'Verse 1'],
    ['the second chorus', 'Chorus 2'],
    ['the last chorus', 'Chorus 3'],
    ['every verse', 'Verse 1, Verse 2'],
    ['all the choruses', 'Chorus 1, Chorus 2, Chorus 3'],
    ['pre-chorus 1', 'Pre-chorus 1'],
    ['the bridge', 'Bridge'],
    ['here', 'Verse 2'],
    ['the verse', 'Verse 2'],
    ['nowhere at all', ''],
  ])('sections: %s', (words, names) => expect(sections(words)).toBe(names))
  it('tells when it took the first of several', () => {
    expect(sectionsNamed('chorus', context)).toMatchObject({ assumed: true })
    expect(sectionsNamed('bridge', context)).toMatchObject({ assumed: false })
  })
  it.each([
    ['guitar two rests', 'Guitar 2'],
    ['Guitar 1 and guitar 3', 'Guitar 1, Guitar 3'],
    ['the bass', 'Bass'],
    ['everyone', 'Guitar 1, Guitar 2, Guitar 3, Acoustic, Bass'],
    ['the drummer', ''],
  ])('parts: %s', (words, names) => expect(parts(words)).toBe(names))
  it('finds the longest figure that is named, of the part where one is', () => {
    expect(figureNamed('plays verse chug, with the run', context, undefined)?.name).toBe(
      'Verse chug, with the run',
    )
    expect(figureNamed('plays verse chug in verse 2', context, undefined)?.name).toBe('Verse chug')
    expect(figureNamed('plays verse chug', context, 'b')).toBeUndefined()
  })
  it('reads numbers in words, and names with signs as they are', () => {
    expect(plainWords('  Verse Two,   “please” ')).toBe('verse 2, please')
    const odd = {
      ...context,
      song: {
        ...song,
        sections: { ...song.sections, odd: { ...song.sections.bridge!, id: 'odd', name: 'B (loud)?' } },
        sectionOrder: [...song.sectionOrder, 'odd'],
      },
    }
    expect(sectionsNamed('in b (loud)? now', odd).found.map((one) => one.id)).toEqual(['odd'])
  })
})
