// The keys of playing, the same on every page.
import type { Shortcut } from '~/composables/shortcuts'
import { useEars } from '~/stores/ears'
import { useLooping } from '~/stores/looping'
import { usePreferences } from '~/stores/preferences'
import { useTransport } from '~/stores/transport'

const grouped = (group: string, keys: Omit<Shortcut, 'group'>[]): Shortcut[] =>
  keys.map((key) => ({ ...key, group }))

const speedKeys = (transport: ReturnType<typeof useTransport>): Omit<Shortcut, 'group'>[] => [
  { keys: ['Space'], label: 'Play or stop', run: () => transport.toggle() },
  { keys: ['-'], label: 'Slower by 5 %', run: () => transport.setSpeed(transport.speed - 0.05) },
  { keys: ['=', '+'], label: 'Faster by 5 %', run: () => transport.setSpeed(transport.speed + 0.05) },
  { keys: ['0', 'Alt+0'], label: 'Full speed', run: () => transport.setSpeed(1) },
  {
    keys: ['9', 'Alt+9'],
    label: 'Balance towards the record',
    run: () => transport.setBalance(transport.balance - 0.1),
  },
  {
    keys: ['8', 'Alt+8'],
    label: 'Balance towards the chart',
    run: () => transport.setBalance(transport.balance + 0.1),
  },
]

const loopKeys = (looping: ReturnType<typeof useLooping>): Omit<Shortcut, 'group'>[] => [
  { keys: ['Alt+b'], label: 'Loop this bar', run: looping.loopBar },
  { keys: ['Alt+s'], label: 'Loop this section', run: looping.loopSection },
  { keys: ['Alt+i'], label: 'Loop this figure in its place', run: looping.loopFigure },
  { keys: ['Alt+h'], label: 'Loop two bars from here', run: looping.loopHere },
  { keys: ['Alt+]'], label: 'A bar more in the loop', run: () => looping.grow(1) },
  { keys: ['Alt+['], label: 'A bar less', run: () => looping.grow(-1) },
  { keys: ['Alt+.'], label: 'The loop on by its own length', run: () => looping.shift(1) },
  { keys: ['Alt+,'], label: 'The loop back by its own length', run: () => looping.shift(-1) },
  { keys: ['l', 'Alt+l'], label: 'Loop off', run: looping.off },
]

const stepKeys = (looping: ReturnType<typeof useLooping>): Omit<Shortcut, 'group'>[] => [
  { keys: ['Alt+r'], label: 'The last two seconds again', run: looping.again },
  { keys: ['Alt+j'], label: 'A beat back', run: () => looping.stepBeat(-1) },
  { keys: ['Alt+k'], label: 'A beat on', run: () => looping.stepBeat(1) },
  { keys: ['Alt+Shift+j'], label: 'A bar back', run: () => looping.stepBar(-1) },
  { keys: ['Alt+Shift+k'], label: 'A bar on', run: () => looping.stepBar(1) },
  { keys: ['Alt+ArrowUp'], label: 'Section before', run: () => looping.toSection(-1) },
  { keys: ['Alt+ArrowDown'], label: 'Next section', run: () => looping.toSection(1) },
]

/** Playing, looping, stepping, ears. */
export function playingShortcuts(): Shortcut[] {
  const transport = useTransport()
  const looping = useLooping()
  const ears = useEars()
  const preferences = usePreferences()
  return [
    ...grouped('Playing', speedKeys(transport)),
    ...grouped('Looping', loopKeys(looping)),
    ...grouped('Stepping', stepKeys(looping)),
    ...grouped('Ears and click', [
      { keys: ['Alt+q'], label: 'Hear the left', run: () => ears.toggle('place', 'left') },
      { keys: ['Alt+w'], label: 'Hear the middle', run: () => ears.toggle('place', 'centre') },
      { keys: ['Alt+e'], label: 'Hear the right', run: () => ears.toggle('place', 'right') },
      { keys: ['Alt+d'], label: 'Hear without drums', run: () => ears.toggle('drums', 'without') },
      { keys: ['Alt+a'], label: 'Hear everything', run: () => ears.choose({}) },
      {
        keys: ['Alt+c'],
        label: 'Click on every beat',
        run: () => {
          preferences.set('click', !preferences.values.click)
          transport.replay()
        },
      },
    ]),
  ]
}
