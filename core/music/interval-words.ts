// Intervals in words.

const NUMBER = [
  'unison',
  'second',
  'second',
  'third',
  'third',
  'fourth',
  'tritone',
  'fifth',
  'sixth',
  'sixth',
  'seventh',
  'seventh',
  'octave',
]
const QUALITY = [
  '',
  'minor ',
  'major ',
  'minor ',
  'major ',
  '',
  '',
  '',
  'minor ',
  'major ',
  'minor ',
  'major ',
  '',
]
/** "minor third below" */
export function intervalWords(semitones: number): string {
  const size = Math.abs(Math.round(semitones))
  const within = size > 12 ? ((size - 1) % 12) + 1 : size
  const name = `${QUALITY[within]}${NUMBER[within]}${size > 12 ? ' and an octave' : ''}`
  if (semitones === 0) return name
  return `${name} ${semitones < 0 ? 'below' : 'above'}`
}
