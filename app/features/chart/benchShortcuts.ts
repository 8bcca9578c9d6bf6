// The keys of the bench, as the help lists them.
import type { Shortcut } from '~/composables/shortcuts'
import { benchActions, byRow } from './benchActions'
import type { Bench } from './benchKeys'

const WRITING = 'Notes, grips, strokes'
const FINGERS = ['1', '2', '3', '4', 'T'] as const

const cursorKeys = (bench: Bench): Shortcut[] =>
  [
    { keys: ['ArrowLeft'], label: 'Step back', run: () => bench.moveTick(-1) },
    { keys: ['ArrowRight'], label: 'Step on', run: () => bench.moveTick(1) },
    { keys: ['Shift+ArrowLeft'], label: 'Four steps back', run: () => bench.moveTick(-4) },
    { keys: ['Shift+ArrowRight'], label: 'Four steps on', run: () => bench.moveTick(4) },
    { keys: ['ArrowUp'], label: 'Row above', run: () => bench.moveRow(-1) },
    { keys: ['ArrowDown'], label: 'Row below', run: () => bench.moveRow(1) },
    { keys: ['Home'], label: 'First step', run: () => bench.go(bench.row.value, 0) },
    { keys: ['End'], label: 'Last step', run: () => bench.go(bench.row.value, Number.MAX_SAFE_INTEGER) },
  ].map((key) => ({ ...key, group: 'Cursor' }))

/** Only the first of a row of keys that do alike is in the help. */
const digitKeys = (bench: Bench): Shortcut[] =>
  Array.from({ length: 10 }, (_, value) => ({
    keys: [String(value)],
    label: value === 0 ? 'Digits on a string: the fret' : '',
    run: () => bench.digit(value),
    group: WRITING,
  }))
const fingerKeys = (bench: Bench): Shortcut[] =>
  FINGERS.map((finger) => ({
    keys: [`Alt+${finger.toLowerCase()}`],
    label: finger === '1' ? 'Alt and 1 to 4, T: fretting finger' : '',
    run: () => bench.dress({ finger }, `finger ${finger}`),
    group: WRITING,
  }))

const barKeys = ({ bars }: Bench): Shortcut[] =>
  [
    { keys: ['mod+b'], label: 'Select this bar; again, the next one too', run: () => bars.selectMore(1) },
    { keys: ['mod+Shift+b'], label: 'Select one bar less', run: () => bars.selectMore(-1) },
    { keys: ['Escape'], label: 'Let go of the bars', run: bars.letGo },
    { keys: ['mod+c'], label: 'Copy the bars', run: bars.copy },
    { keys: ['mod+v'], label: 'Paste over what is here', run: bars.paste },
    { keys: ['mod+Enter'], label: 'Insert an empty bar before', run: bars.insert },
    { keys: ['mod+Delete', 'mod+Backspace'], label: 'Remove the bars', run: bars.remove },
  ].map((key) => ({ ...key, group: 'Bars' }))

const ROW_WORDS = { string: ' (strings)', hand: ' (hand)', struck: '', both: '' }
const actionKeys = (bench: Bench): Shortcut[] =>
  benchActions(bench).map(({ keys, label, run, rows }) => ({
    keys,
    label: `${label}${ROW_WORDS[rows]}`,
    run,
    group: WRITING,
  }))

/** What the page around the bench does for the keys. */
export interface ChartPageActs {
  newFigure: () => void
  callLine: () => void
  writeGrip: () => void
  turnPage: (by: number) => void
  hear: (scope: 'figure' | 'part' | 'song') => void
}

/** All keys of Chart; where two share one, the later wins. */
export const benchShortcuts = (bench: Bench, page: ChartPageActs): Shortcut[] => [
  ...cursorKeys(bench),
  ...digitKeys(bench),
  ...fingerKeys(bench),
  ...actionKeys(bench),
  ...barKeys(bench),
  { keys: ['n'], label: 'New figure', run: page.newFigure, group: WRITING },
  { keys: ['l'], label: 'The call line', run: page.callLine, group: WRITING },
  { keys: ['g'], label: 'Write the grip', run: page.writeGrip, group: WRITING },
  { keys: [']'], label: 'Next page of what is known', run: () => page.turnPage(1), group: WRITING },
  { keys: ['['], label: 'Page before', run: () => page.turnPage(-1), group: WRITING },
  {
    keys: ['Enter'],
    label: 'On the hand row: stroke by pendulum',
    run: byRow(
      bench,
      () => bench.moveTick(1),
      () => {
        if (bench.row.value === 'hand') bench.strike(undefined)
        else page.writeGrip()
      },
    ),
    group: WRITING,
  },
  { keys: ['Shift+Space'], label: 'The whole chart from here', run: () => page.hear('song'), group: 'Hear' },
  { keys: ['q'], label: 'This part alone', run: () => page.hear('part'), group: 'Hear' },
  { keys: ['f'], label: 'The figure alone, looped', run: () => page.hear('figure'), group: 'Hear' },
]
