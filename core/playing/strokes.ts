// The strumming hand: direction by pendulum (down on the beat, up between), and strokes laid out over steps.
import { beatTicks, stepTicks, type Meter, type Subdivision } from '../time/meter'

/** Direction of a hand that swings evenly through the steps whether it strikes or not. Odd steps go up; at quarters and in triplets all go down on the beat. */
export function pendulumDirection(startTicks: number, meter: Meter, subdivision: Subdivision): 'down' | 'up' {
  const step = stepTicks(meter, subdivision)
  const index = Math.round((startTicks % beatTicks(meter)) / step)
  return index % 2 === 0 ? 'down' : 'up'
}
