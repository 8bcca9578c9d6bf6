import { defineStore } from 'pinia'
import type { CallGoes } from '#core/call/entering'
import { USUAL_HAND, type Hand } from '#core/neck/hand'
import { database } from '#platform/database'

interface Preferences {
  naming: 'shape' | 'sounding'
  strings: 'numbers' | 'letters'
  theme: 'system' | 'light' | 'dark'
  /** How the stand looks, apart from all else. */
  standLook: 'as all' | 'light' | 'dark'
  /** Necks, shapes and the stand are drawn for a left hand that plucks: the low string on the other side. */
  leftHanded: boolean
  paper: 'A4' | 'Letter'
  countInBars: 0 | 1 | 2
  handName: string
  handCautionMm: number
  humanFeel: boolean
  /** Chords stand with their degree of the key: C ♭VI. */
  numerals: boolean
  /** A click on every beat while playing. */
  click: boolean
  /** Of the click and the count-in, in percent. */
  clickLoudness: number
  /** The bench goes along with the music from figure to figure. */
  goAlong: boolean
  /** The walk through a demo song has been seen or waved away. */
  walkSeen: boolean
  /** Where what is typed on the call line goes. */
  callGoes: CallGoes
  /** Figures are said back in the exact words, or as one says them. */
  callWords: 'short' | 'said'
  /** Whose plan and log Teach shows. */
  studentId: string
  /** The two students of the demo have been put there once. */
  studentsSeen: boolean
}
const DEFAULTS: Preferences = {
  naming: 'shape',
  strings: 'letters',
  theme: 'system',
  standLook: 'as all',
  leftHanded: false,
  paper: 'A4',
  countInBars: 0,
  handName: USUAL_HAND.name,
  handCautionMm: USUAL_HAND.cautionMm,
  humanFeel: false,
  numerals: false,
  click: false,
  clickLoudness: 100,
  goAlong: false,
  walkSeen: false,
  callGoes: 'here',
  callWords: 'said',
  studentId: '',
  studentsSeen: false,
}

/** How this person likes things named and shown; kept in the browser, not in a song. */
export const usePreferences = defineStore('preferences', () => {
  const values = reactive<Preferences>({ ...DEFAULTS })
  async function load(): Promise<void> {
    const rows = await database.preferences.toArray().catch(() => [])
    for (const { key, value } of rows)
      if (key in DEFAULTS && typeof value === typeof DEFAULTS[key as keyof Preferences])
        Object.assign(values, { [key]: value })
  }
  function set<K extends keyof Preferences>(key: K, value: Preferences[K]): void {
    Object.assign(values, { [key]: value })
    void database.preferences.put({ key, value }).catch(() => undefined)
  }
  /** The hand that grips and paths are made for. */
  const hand = computed<Hand>(() => ({ name: values.handName, cautionMm: values.handCautionMm }))
  return { values, hand, load, set }
})
