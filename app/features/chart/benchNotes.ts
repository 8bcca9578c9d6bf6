// What the keys do to the note at the cursor.
import { changeNote, setFret, toggleMark } from '#core/document/figure-edit'
import type { Mark, Note } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'
import type { BenchCursor } from './benchCursor'

/** Two digits typed within this time are one fret. */
const TWO_DIGITS_MS = 700
/** What the bend key goes through, the usual full bend first; then no bend. */
const BEND_SEMITONES = [2, 1, 0.5, 0.25, 3]

export function useBenchNotes(cursor: BenchCursor) {
  const store = useSong()
  const { row, tick, part, step, content, note, edit } = cursor
  let lastDigit = { at: 0, value: 0, tick: -1 }

  function fret(stringNumber: number, value: number): void {
    if (
      edit(
        `string ${stringNumber} fret ${value}`,
        setFret(content.value, {
          string: stringNumber,
          tick: tick.value,
          fret: value,
          lengthTicks: step.value,
          id: randomId(),
        }),
      )
    )
      row.value = stringNumber
  }

  function digit(value: number): void {
    if (typeof row.value !== 'number') return
    const now = performance.now()
    const joined =
      now - lastDigit.at < TWO_DIGITS_MS && lastDigit.tick === tick.value && lastDigit.value > 0
        ? lastDigit.value * 10 + value
        : value
    const highest = part.value ? part.value.instrument.fretCount - part.value.instrument.capo : 24
    fret(row.value, joined <= highest ? joined : value)
    lastDigit = { at: now, value: joined <= highest ? joined : value, tick: tick.value }
  }

  function articulate(mark: Mark, what: string): void {
    if (note.value) edit(what, changeNote(content.value, note.value.id, toggleMark(note.value, mark)))
    else store.notice = { text: 'Put the cursor on a note first: type its fret.', kind: 'refusal' }
  }

  function bend(): void {
    const has = note.value?.marks.find((mark) => mark.kind === 'bend')
    const shape = has?.kind === 'bend' ? has.shape : 'plain'
    const next = BEND_SEMITONES[has?.kind === 'bend' ? BEND_SEMITONES.indexOf(has.semitones) + 1 : 0]
    if (!note.value) articulate({ kind: 'bend', semitones: 2, shape }, 'bend')
    else {
      const rest = note.value.marks.filter((mark) => mark !== has)
      edit(
        next === undefined ? 'no bend' : `bend of ${next} semitones`,
        changeNote(content.value, note.value.id, {
          marks: next === undefined ? rest : [...rest, { kind: 'bend', semitones: next, shape }],
        }),
      )
    }
  }

  /** Sets how a note is picked or fretted; the same again takes it off. */
  function dress(set: { pick: 'down' | 'up' } | { finger: NonNullable<Note['finger']> }, what: string): void {
    if (!note.value) {
      store.notice = { text: 'Put the cursor on a note first: type its fret.', kind: 'refusal' }
      return
    }
    const { pick, finger, ...rest } = note.value
    const next = { ...(pick ? { pick } : {}), ...(finger ? { finger } : {}), ...set }
    const same = 'pick' in set ? pick === set.pick : finger === set.finger
    if (same) Reflect.deleteProperty(next, 'pick' in set ? 'pick' : 'finger')
    edit(what, {
      ...content.value,
      notes: content.value.notes.map((other) => (other.id === note.value!.id ? { ...rest, ...next } : other)),
    })
  }
  return { fret, digit, articulate, bend, dress }
}
