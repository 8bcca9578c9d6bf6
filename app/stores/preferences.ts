import { defineStore } from 'pinia'
import { database } from '#platform/database'

interface Preferences { naming: 'shape' | 'sounding'; strings: 'numbers' | 'letters'; theme: 'system' | 'light' | 'dark'; paper: 'A4' | 'Letter'; countInBars: 0 | 1 | 2 }
const DEFAULTS: Preferences = { naming: 'shape', strings: 'letters', theme: 'system', paper: 'A4', countInBars: 0 }

/** How this person likes things named and shown; kept in the browser, not in a song. */
export const usePreferences = defineStore('preferences', () => {
  const values = reactive<Preferences>({ ...DEFAULTS })
  async function load(): Promise<void> {
    const rows = await database.preferences.toArray().catch(() => [])
    for (const { key, value } of rows) if (key in DEFAULTS && typeof value === typeof DEFAULTS[key as keyof Preferences]) Object.assign(values, { [key]: value })
  }
  function set<K extends keyof Preferences>(key: K, value: Preferences[K]): void {
    Object.assign(values, { [key]: value })
    void database.preferences.put({ key, value }).catch(() => undefined)
  }
  return { values, load, set }
})
