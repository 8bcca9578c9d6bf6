// What each folder may import. Everything not named is refused, with the reason; tests may look anywhere.
// tests/unit/walls.test.ts proves for each folder that the wall stands.

const CORE_WHY =
  'The core is pure: it knows neither page, database, Node nor platform. ' +
  'Hand in what it needs as an argument.'

/** For each folder of the core the folders below it, from the ground up. */
export const CORE_FOLDERS = {
  music: [],
  time: ['music'],
  instrument: ['music'],
  marks: ['music', 'time'],
  document: ['music', 'time', 'instrument', 'marks'],
  timeline: ['music', 'time', 'instrument', 'document', 'marks'],
  score: ['music', 'time', 'instrument', 'document', 'marks', 'timeline'],
  fretboard: ['music', 'time', 'instrument', 'document', 'marks', 'timeline', 'score'],
  editing: ['music', 'time', 'instrument', 'document', 'marks', 'timeline', 'score', 'fretboard'],
  listen: ['music', 'time'],
  call: ['music', 'time', 'instrument', 'document', 'marks', 'timeline', 'fretboard'],
  'form-call': ['music', 'time', 'instrument', 'document', 'marks', 'timeline', 'score', 'fretboard', 'call'],
  sound: ['music', 'time', 'document', 'marks', 'timeline', 'score'],
  review: [
    'music',
    'time',
    'instrument',
    'document',
    'marks',
    'timeline',
    'score',
    'fretboard',
    'editing',
    'listen',
  ],
  engrave: [
    ...['music', 'time', 'instrument', 'document', 'marks', 'timeline', 'score', 'fretboard'],
    ...['listen', 'review'],
  ],
  exchange: ['music', 'time', 'instrument', 'document', 'marks', 'timeline', 'score', 'fretboard'],
  teach: ['music', 'time', 'instrument', 'document', 'marks', 'timeline', 'score', 'fretboard'],
}

const WHY = {
  music: 'music is the lowest layer: it knows no neighbour.',
  time: 'time knows music at most: move what needs the song above it.',
  instrument: 'an instrument is strings and a neck: what is played on it stands above.',
  document: 'the document knows nothing of what is computed from it; reactions are registered from above.',
  fretboard: 'the fretboard reads the document and nothing that stands on it.',
  editing:
    'editing runs transactions and what follows from them; everything that changes a song stands above.',
  listen: 'listening knows music and time and nothing of the document; review joins the two.',
  marks: 'a mark knows itself, not the note it stands on or what is played around it.',
  timeline: 'the timeline unrolls the document: drawing, sound and review read it, not the other way.',
  score: 'the score performs the document once; what looks, sounds and draws stands above.',
  call: 'the call line reads words into content; where that goes is the document’s.',
  'form-call': 'a call over the form reads words into cells and chords of the map; the page enters them.',
  sound: 'sound plays events of the timeline.',
  engrave: 'engraving turns document and timeline into geometry; pages paint it.',
  review: 'review joins what is heard and what is written.',
  teach: 'teaching is worked out from document, timeline and fretboard; students stand beside the song.',
  exchange: 'exchange reads and writes files over document and timeline.',
}

/** Packages and paths, as regular expressions over what an import names. */
const FORBIDDEN_IN_CORE =
  '^(vue|@vue|@vueuse|vuetify|vue-router|pinia|dexie|nuxt|#app|#imports|#platform|#core|~|fs|path|' +
  'crypto)(/|$)' +
  '|^node:|/(app|platform|server|cli)/'

/** Names of the page, the worker and Node that no file of the core may use without importing them. */
const GLOBALS = [
  'window',
  'document',
  'navigator',
  'localStorage',
  'indexedDB',
  'self',
  'fetch',
  'postMessage',
  'process',
  'Buffer',
  'require',
  '__dirname',
  'AudioContext',
  'Worker',
]

function coreWall(folder, below) {
  const others = Object.keys(CORE_FOLDERS).filter((name) => name !== folder && !below.includes(name))
  return {
    files: [`core/${folder}/**/*.ts`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { regex: FORBIDDEN_IN_CORE, message: CORE_WHY },
            { regex: `^\\.\\.?/(.*/)?(${others.join('|')})/`, message: WHY[folder] },
          ],
        },
      ],
      'no-restricted-globals': ['error', ...GLOBALS.map((name) => ({ name, message: CORE_WHY }))],
    },
  }
}

const outerWall = (files, regex, message) => ({
  files,
  ignores: ['**/*.test.ts'],
  rules: { 'no-restricted-imports': ['error', { patterns: [{ regex, message }] }] },
})

export const walls = [
  ...Object.entries(CORE_FOLDERS).map(([folder, below]) => coreWall(folder, below)),
  outerWall(
    ['platform/**/*.ts'],
    '^(~|vue|pinia|vuetify)(/|$)|^node:|/(app|server|cli|tools)/',
    'platform adapts the browser to the core: it knows neither pages nor Node.',
  ),
  outerWall(
    ['app/**/*.{ts,vue}'],
    '^node:|/(server|cli|tools)/',
    'A page runs in the browser: what needs Node belongs to the server or to the tools.',
  ),
  outerWall(
    ['server/**/*.ts'],
    '^(~|#platform|vue|pinia|dexie)(/|$)|/(app|platform)/',
    'The server answers over the core alone: no page, no browser.',
  ),
]
