// Exported scores in front of readers that are not ours: the browser's own XML parser, and an engraver from
// the registry that draws them and says what it found.
import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { must } from '../../core/result'
import { readSong } from '../../core/document/migrations'
import { scoreFromSong } from '../../core/exchange/score/from-song'
import { writeMusicXml } from '../../core/exchange/musicxml/write-musicxml'
import { everyMarkSong } from '../support/every-mark'
import type { Song } from '../../core/document/schema'

const ENGRAVER = 'node_modules/opensheetmusicdisplay/build/opensheetmusicdisplay.min.js'
const demo = (name: string): Song =>
  must(readSong(JSON.parse(readFileSync(`demo/songs/${name}.json`, 'utf8'))))
const SONGS = {
  'Salt on the Signal': () => demo('salt-on-the-signal'),
  'Cold Kiln': () => demo('cold-kiln'),
  'every mark': everyMarkSong,
}

interface Engraved {
  measures: number
  /** "part string/fret midi", ties counted once. */
  notes: string[]
  chords: number
  wellFormed: boolean
}

/** The parts of the engraver that are asked. */
interface Engraver {
  load: (xml: string) => Promise<unknown>
  render: () => void
  Sheet: {
    SourceMeasures: {
      VerticalSourceStaffEntryContainers: {
        StaffEntries: (
          | {
              ParentStaff: { idInMusicSheet: number }
              ChordContainers: unknown[]
              VoiceEntries: {
                IsGrace: boolean
                Notes: {
                  isRest: () => boolean
                  FretNumber: number
                  StringNumberTab: number
                  halfTone: number
                  NoteTie?: { Notes: unknown[]; Type: string }
                }[]
              }[]
            }
          | undefined
        )[]
      }[]
    }[]
  }
}

const engrave = (page: Page, xml: string): Promise<Engraved> =>
  page.evaluate(async (source) => {
    const { OpenSheetMusicDisplay } = (
      window as unknown as {
        opensheetmusicdisplay: { OpenSheetMusicDisplay: new (id: string, options: object) => Engraver }
      }
    ).opensheetmusicdisplay
    const engraver = new OpenSheetMusicDisplay('sheet', { backend: 'svg', autoResize: false })
    await engraver.load(source)
    engraver.render()
    const found: Engraved = {
      measures: engraver.Sheet.SourceMeasures.length,
      notes: [],
      chords: 0,
      wellFormed: true,
    }
    const entries = engraver.Sheet.SourceMeasures.flatMap((measure) =>
      measure.VerticalSourceStaffEntryContainers.flatMap(({ StaffEntries }) => StaffEntries),
    ).filter((entry) => entry !== undefined)
    found.chords = entries.reduce((sum, { ChordContainers }) => sum + ChordContainers.length, 0)
    found.notes = entries.flatMap(({ ParentStaff, VoiceEntries }) =>
      VoiceEntries.filter(({ IsGrace }) => !IsGrace)
        .flatMap(({ Notes }) => Notes)
        // Hammer-ons and slides are ties of another type there.
        .filter((note) => !note.isRest() && !(note.NoteTie?.Type === '' && note.NoteTie.Notes[0] !== note))
        .map((note) => {
          const { StringNumberTab: string, FretNumber: fret, halfTone } = note
          return `${ParentStaff.idInMusicSheet} ${string}/${fret} ${halfTone + 12}`
        }),
    )
    const parsed = new DOMParser().parseFromString(source, 'application/xml')
    found.wellFormed = parsed.querySelector('parsererror') === null
    return found
  }, xml)

for (const [name, song] of Object.entries(SONGS))
  test(`${name} is engraved whole and without a warning`, async ({ page }) => {
    const warnings: string[] = []
    page.on('console', (message) => {
      if (['warning', 'error'].includes(message.type())) warnings.push(message.text())
    })
    page.on('pageerror', (error) => warnings.push(error.message))
    await page.setContent('<div id="sheet" style="width:1200px"></div>')
    await page.addScriptTag({ path: ENGRAVER })
    const score = scoreFromSong(song())
    const found = await engrave(page, writeMusicXml(score))
    expect(warnings).toEqual([])
    expect(found.wellFormed).toBe(true)
    expect(found.measures).toBe(score.bars.length)
    const wanted = score.parts.flatMap(({ notes }, index) =>
      notes.map(({ string, fret, midi }) => `${index} ${string}/${fret} ${midi}`),
    )
    expect(found.notes.sort()).toEqual(wanted.sort())
    const grips = score.parts.reduce((sum, part) => sum + part.grips.length, 0)
    expect(found.chords).toBe(score.harmony.length + grips)
    await expect(page.locator('#sheet svg').first()).toBeVisible()
  })
