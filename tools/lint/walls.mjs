// What each folder may import. Everything not named is refused, with the reason; tests may look anywhere.
// tests/unit/walls.test.ts proves for each folder that the wall stands.

const CORE_WHY =
  'The core is pure: it knows neither page, database, Node nor platform. ' +
  'Hand in what it needs as an argument.'

/** Everything the song is made of and played from. */
const SONG = ['words', 'music', 'time', 'instrument', 'document', 'marks', 'timeline', 'score']

/** For each folder of the core the folders below it, from the ground up. */
export const CORE_FOLDERS = {
  words: [],
  music: [],
  time: ['words', 'music'],
  instrument: ['words', 'music'],
  marks: ['words', 'music', 'time'],
  document: ['words', 'music', 'time', 'instrument', 'marks'],
  timeline: ['words', 'music', 'time', 'instrument', 'document', 'marks'],
  score: ['words', 'music', 'time', 'instrument', 'document', 'marks', 'timeline'],
  neck: SONG,
  editing: [...SONG, 'neck'],
  hear: ['words', 'music', 'time'],
  call: ['words', 'music', 'time', 'instrument', 'document', 'marks', 'timeline', 'neck'],
  'form-call': [...SONG, 'neck', 'call'],
  sound: ['words', 'music', 'time', 'document', 'marks', 'timeline', 'score'],
  suggest: [...SONG, 'neck', 'editing', 'hear'],
  check: [...SONG, 'neck', 'editing', 'hear'],
  doubts: [...SONG, 'neck', 'editing', 'hear', 'check'],
  compare: [...SONG, 'neck', 'check', 'exchange'],
  explore: [...SONG, 'neck', 'editing', 'hear'],
  engrave: [...SONG, 'neck', 'hear', 'suggest', 'check', 'doubts'],
  exchange: [...SONG, 'neck'],
  teach: [...SONG, 'neck'],
}

const WHY = {
  words: 'words are helpers of sentences: they know nothing that is spoken of.',
  music: 'music is the lowest layer: it knows no neighbour.',
  time: 'time knows music at most: move what needs the song above it.',
  instrument: 'an instrument is strings and a neck: what is played on it stands above.',
  document: 'the document knows nothing of what is computed from it; reactions are registered from above.',
  neck: 'the neck reads the document and nothing that stands on it.',
  editing:
    'editing runs transactions and what follows from them; everything that changes a song stands above.',
  hear: 'hearing knows music and time and nothing of the document; suggest and check join the two.',
  marks: 'a mark knows itself, not the note it stands on or what is played around it.',
  timeline: 'the timeline unrolls the document: drawing, sound and the check read it, not the other way.',
  score: 'the score performs the document once; what looks, sounds and draws stands above.',
  call: 'the call line reads words into content; where that goes is the document’s.',
  'form-call': 'a call over the form reads words into cells and chords of the map; the page enters them.',
  sound: 'sound plays events of the timeline.',
  engrave: 'engraving turns document and timeline into geometry; pages paint it.',
  suggest: 'suggest says what is heard and not yet written; it judges nothing that is.',
  check: 'the check holds what is written against its rules and the recording.',
  doubts: 'doubts are proved over the check; nothing of the core asks them back.',
  compare: 'comparing lays two charts beside each other; it changes and hears nothing.',
  explore: 'exploring reads the song for what else could be played.',
  teach: 'teaching is worked out from document, timeline and neck; students stand beside the song.',
  exchange: 'exchange reads and writes files over document and timeline.',
}

/** Packages and paths, as regular expressions over what an import names. */
const FORBIDDEN_IN_CORE =
  '^(vue|@vue|@vueuse|vuetify|vue-router|pinia|dexie|nuxt|#app|#imports|#platform|#core|~|fs|path|' +
  'crypto)(/|$)' +
  '|^node:|/(app|platform|server|cli|node|tools)/'

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
    '^(~|vue|pinia|vuetify)(/|$)|^node:|/(app|server|cli|node|tools)/',
    'platform adapts the browser to the core: it knows neither pages nor Node.',
  ),
  outerWall(
    ['app/**/*.{ts,vue}'],
    '^node:|/(server|cli|node|tools)/',
    'A page runs in the browser: what needs Node belongs to the server or to the tools.',
  ),
  outerWall(
    ['server/**/*.ts'],
    '^(~|#platform|vue|pinia|dexie)(/|$)|/(app|platform|tools)/',
    'The server answers over the core alone: no page, no browser, no script of the workshop.',
  ),
  outerWall(
    ['node/**/*.ts'],
    '^(~|#platform|vue|pinia|dexie)(/|$)|/(app|platform|server|cli|tools)/',
    'node adapts Node to the core, as platform does the browser: it knows nobody above it.',
  ),
  outerWall(
    ['cli/**/*.ts'],
    '^(~|vue|pinia|dexie)(/|$)|/(app|server|tools)/',
    'The command line runs on the core and on Node: no page, no script of the workshop.',
  ),
]
