// The keys of Listen, as the help lists them.
import type { Shortcut } from '~/composables/shortcuts'
import { useHearing } from '~/stores/hearing'
import type { BeatWork } from './beatWork'
import type { ListenWork } from './listenWork'

const grouped = (group: string, keys: Omit<Shortcut, 'group'>[]): Shortcut[] =>
  keys.map((key) => ({ ...key, group }))

const heardKeys = (work: ListenWork, beats: BeatWork, hearing: ReturnType<typeof useHearing>): Shortcut[] =>
  grouped('Heard', [
    { keys: ['a'], label: 'Accept everything that was heard', run: () => hearing.acceptAll() },
    { keys: ['j'], label: 'Accept the section of this bar, with its chords', run: work.acceptLine },
    { keys: ['c'], label: 'Accept all chords', run: () => hearing.accept(['chords']) },
    {
      keys: ['q'],
      label: 'Hear the likeliest chord of this bar against the record',
      run: () => work.hearRival(0),
    },
    { keys: ['w'], label: 'Hear its first rival', run: () => work.hearRival(1) },
    { keys: ['r'], label: 'Hear its second rival', run: () => work.hearRival(2) },
    { keys: ['g'], label: 'Hear again around what is set', run: () => void beats.hearAgain() },
  ])

const formKeys = (work: ListenWork): Shortcut[] =>
  grouped('Form', [
    {
      keys: ['s'],
      label: 'A section starts here (bar under the pointer or the playhead)',
      run: work.markSection,
    },
    { keys: ['e'], label: 'Name, type, return of this section', run: work.editSection },
    { keys: ['Backspace'], label: 'Merge this section into the one before', run: work.mergeSection },
    { keys: ['<', ','], label: 'Start this section one bar earlier', run: () => work.moveStart(-1) },
    { keys: ['>', '.'], label: 'Start this section one bar later', run: () => work.moveStart(1) },
  ])

const movingKeys = (work: ListenWork): Shortcut[] =>
  grouped('Moving', [
    { keys: ['ArrowLeft'], label: 'Beat before', run: () => work.stepBeat(-1) },
    { keys: ['ArrowRight'], label: 'Next beat', run: () => work.stepBeat(1) },
    { keys: ['Shift+ArrowLeft'], label: 'Bar before', run: () => work.stepBar(-1) },
    { keys: ['Shift+ArrowRight'], label: 'Next bar', run: () => work.stepBar(1) },
  ])

const beatKeys = (work: ListenWork, beats: BeatWork): Shortcut[] =>
  grouped('Beats', [
    { keys: ['1'], label: 'This beat is the one', run: () => work.theOne(false) },
    { keys: ['!', '2'], label: 'This beat is the one, from here on only', run: () => work.theOne(true) },
    { keys: ['t'], label: 'Tap along while playing; Enter keeps the taps', run: () => beats.tap() },
    { keys: ['Enter'], label: 'Keep the taps', run: () => beats.keepTaps() },
    { keys: ['['], label: 'This beat 10 ms earlier', run: () => work.nudge(-0.01) },
    { keys: [']'], label: 'This beat 10 ms later', run: () => work.nudge(0.01) },
    { keys: ['i'], label: 'Insert a beat at the playhead', run: work.insertBeat },
    { keys: ['Delete'], label: 'Remove this beat', run: work.removeBeat },
    { keys: ['h'], label: 'Halve the pulse', run: work.halve },
    { keys: ['d'], label: 'Double the pulse', run: work.double },
    { keys: ['f'], label: 'The looped span is free time', run: work.free },
  ])

/** All keys of Listen. */
export const listenShortcuts = (work: ListenWork, beats: BeatWork): Shortcut[] => [
  ...heardKeys(work, beats, useHearing()),
  ...formKeys(work),
  ...movingKeys(work),
  ...beatKeys(work, beats),
]
