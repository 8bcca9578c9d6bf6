import { defineStore } from 'pinia'
import { usePreferences } from './preferences'

export interface WalkStep {
  path: string
  /** What on the page it is about; the card stands alone when it is not there. */
  target?: string
  title: string
  text: string
}
export const WALK_SONG = 'salt-on-the-signal'
const SONG = `/song/${WALK_SONG}`
/** Two minutes through one of the songs on the shelf. Nothing is changed on the way. */
export const WALK: readonly WalkStep[] = [
  {
    path: '/',
    target: `[data-test=song]:has([href^="${SONG}/"])`,
    title: 'One song, worked out',
    text:
      'Each line of the shelf is a recorded song. The strip is its form: tall green pieces are ' +
      'choruses, ochre ones bridge and solo. We open “Salt on the Signal”, which is charted ' +
      'already.',
  },
  {
    path: `${SONG}/setup`,
    target: 'main h2',
    title: 'Set up: who plays, tuned how',
    text:
      'The band, part by part: strings, tuning, capo, where it sits in the stereo field. What the ' +
      'recording says about the tuning can be taken over.',
  },
  {
    path: `${SONG}/listen`,
    target: '[data-test=sheet]',
    title: 'Listen: the recording in bars',
    text:
      'Every line is up to eight bars; a section begins a new one, so what returns stands under ' +
      'what it returns. Click a bar to go there, drag over bars to loop them. What is only heard is' +
      ' drawn dotted, until you take it.',
  },
  {
    path: `${SONG}/listen`,
    target: '[data-test=loop-menu]',
    title: 'Loop, slow down, single out',
    text:
      'Along the foot of every page: play, speed with the pitch kept, loops by bar and section that' +
      ' can climb in speed, ears for one side or without the drums, and the balance between record ' +
      'and chart.',
  },
  {
    path: `${SONG}/map`,
    target: 'table',
    title: 'Map: what each part plays where',
    text:
      'One row a section, one column a part. Hatching is what nobody has charted yet; a rest is a ' +
      'thin rule. While it plays, the section that sounds is marked. Enter opens a figure on the ' +
      'bench.',
  },
  {
    path: `${SONG}/chart?figure=verse-chug`,
    target: '[data-test=board]',
    title: 'Chart: the bench',
    text:
      'The figure on its strings, under the outline of the record. Type fret digits, click the ' +
      'neck, or say it in the line above: “7 on the G, hammer on to 9”. “Go along” lets the bench ' +
      'follow the music.',
  },
  {
    path: `${SONG}/handout`,
    target: 'main h2',
    title: 'Hand out: the sheet',
    text:
      'The lesson as it will print, and the song as a file. Press ? on any page for its keys. This ' +
      'walk can be taken again from there.',
  },
]

/** The walk through a demo song: where it is, and how it goes on. */
export const useWalk = defineStore('walk', () => {
  const preferences = usePreferences()
  const index = ref(-1)
  const step = computed(() => WALK[index.value])
  async function go(to: number): Promise<void> {
    index.value = to
    const { value } = step
    if (value) await navigateTo(value.path)
    else preferences.set('walkSeen', true)
  }
  return {
    index,
    step,
    start: () => go(0),
    next: () => go(index.value + 1 < WALK.length ? index.value + 1 : -1),
    back: () => go(Math.max(0, index.value - 1)),
    stop: () => {
      index.value = -1
      preferences.set('walkSeen', true)
    },
  }
})
