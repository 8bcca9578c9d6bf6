// The keys of Listen, as the help lists them.
import type { Shortcut } from '~/composables/shortcuts'
import { useHearing } from '~/stores/hearing'
import type { BeatWork } from './beatWork'
import type { ChordWork } from './chordWork'
import type { CountReadings } from './countReadings'
import type { HearAgain } from './hearAgain'
import type { ListenWork } from './listenWork'

/** Everything the keys of Listen act through. */
export interface ListenWorks {
  work: ListenWork
  beats: BeatWork
  chords: ChordWork
  readings: CountReadings
  hearAgain: HearAgain
}

const grouped = (group: string, keys: Omit<Shortcut, 'group'>[]): Shortcut[] =>
  keys.map((key) => ({ ...key, group }))

const heardKeys = ({ work, readings, hearAgain }: ListenWorks): Shortcut[] => {
  const hearing = useHearing()
  return grouped('Heard', [
    { keys: ['a'], label: 'Accept everything that was heard', run: () => hearing.acceptAll() },
    { keys: ['j'], label: 'Accept the section of this bar, with its chords', run: work.acceptLine },
    { keys: ['c'], label: 'Accept all chords', run: () => hearing.accept(['chords']) },
    { keys: ['g'], label: 'Hear again around what is set', run: () => void hearAgain.all() },
    {
      keys: ['b'],
      label: 'Listen again inside the loop, or the section of this bar',
      run: () => void hearAgain.inside(),
    },
    { keys: ['v'], label: 'Hear the next other way to count', run: () => readings.next() },
    { keys: ['Shift+v'], label: 'Count it the way that is heard', run: () => readings.take() },
  ])
}

const chordKeys = (chords: ChordWork): Shortcut[] =>
  grouped('Chord in the hand', [
    { keys: ['q'], label: 'Hear what it most likely is against the record', run: () => chords.hearRival(0) },
    { keys: ['w'], label: 'Hear its first rival', run: () => chords.hearRival(1) },
    { keys: ['r'], label: 'Hear its second rival', run: () => chords.hearRival(2) },
    { keys: ['Shift+q'], label: 'Take what it most likely is', run: () => chords.takeRival(0) },
    { keys: ['Shift+w'], label: 'Take its first rival', run: () => chords.takeRival(1) },
    { keys: ['Shift+r'], label: 'Take its second rival', run: () => chords.takeRival(2) },
    { keys: ['ArrowDown'], label: 'Next chord', run: () => chords.step(1) },
    { keys: ['ArrowUp'], label: 'Chord before', run: () => chords.step(-1) },
    { keys: ['Alt+ArrowLeft'], label: 'Half a beat earlier', run: () => chords.move(-1) },
    { keys: ['Alt+ArrowRight'], label: 'Half a beat later', run: () => chords.move(1) },
    { keys: ['Alt+Shift+ArrowLeft'], label: 'It ends half a beat earlier', run: () => chords.stretchEnd(-1) },
    { keys: ['Alt+Shift+ArrowRight'], label: 'It ends half a beat later', run: () => chords.stretchEnd(1) },
    { keys: ['/'], label: 'Divide it', run: chords.divide },
    { keys: ['x'], label: 'Remove it: the chord before sounds on', run: chords.remove },
    { keys: ['y'], label: 'The chords of this section to its returns', run: chords.copyToReturns },
    { keys: ['Escape'], label: 'Let go of it', run: () => chords.choose(undefined) },
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
    { keys: ['{'], label: 'Start it one beat earlier: with a lead-in', run: () => work.moveStart(0, -1) },
    { keys: ['}'], label: 'Start it one beat later', run: () => work.moveStart(0, 1) },
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
    { keys: ['m'], label: 'The bars of the loop in three (again: four)', run: () => beats.countLoop() },
  ])

/** All keys of Listen. */
export const listenShortcuts = (works: ListenWorks): Shortcut[] => [
  ...heardKeys(works),
  ...chordKeys(works.chords),
  ...formKeys(works.work),
  ...movingKeys(works.work),
  ...beatKeys(works.work, works.beats),
]
