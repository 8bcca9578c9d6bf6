// What the keys do on the bench. The cursor stands on a row (grips, a string, the hand) at a step; keys act
// on what is there.
import { beatTicks, stepTicks } from '#core/time/meter'
import { usualDirection } from '#core/fretboard/strokes'
import { storeContent } from '#core/document/figure-layers'
import { figureContent } from '#core/document/figure-content'
import {
  changeGrip,
  changeNote,
  gripAt,
  nextPressure,
  noteAt,
  removeGrip,
  removeNote,
  removeStroke,
  setFret,
  setMuteSpan,
  setStroke,
  strokeAt,
  toggleArticulation,
} from '#core/document/figure-edit'
import type { Articulation, Content, Figure, Note, Stroke } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'

export type BenchRow = 'grips' | 'hand' | number
/** Two digits typed within this time are one fret. */
const TWO_DIGITS_MS = 700
/** What the bend key goes through, the usual full bend first; then no bend. */
const BEND_SEMITONES = [2, 1, 0.5, 3]

export function useBench(figure: Ref<Figure | undefined>) {
  const store = useSong()
  const row = ref<BenchRow>(6)
  const tick = ref(0)
  let lastDigit = { at: 0, value: 0, tick: -1 }

  const part = computed(() => (figure.value ? store.song?.parts[figure.value.partId] : undefined))
  const strings = computed(() => part.value?.tuning.openMidi.length ?? 6)
  const step = computed(() =>
    figure.value ? stepTicks(figure.value.meter, figure.value.feel.subdivision) : 5040,
  )
  /** Which form of the figure is on the bench. */
  const form = ref<'exact' | 'eased'>('exact')
  const showForm = (next: 'exact' | 'eased'): void => {
    form.value = next
  }
  watch(
    () => figure.value?.id,
    () => showForm('exact'),
  )
  const eased = computed(() => form.value === 'eased' && figure.value?.eased !== undefined)
  /** What is heard: with what it takes from its base and its pattern. */
  const content = computed<Content>(() =>
    figure.value && store.song
      ? figureContent(store.song, figure.value, eased.value ? 'eased' : 'exact')
      : { grips: [], strokes: [], notes: [], mutes: [] },
  )
  const note = computed(() =>
    typeof row.value === 'number' ? noteAt(content.value, row.value, tick.value) : undefined,
  )
  const stroke = computed(() => strokeAt(content.value, tick.value))
  const grip = computed(() => gripAt(content.value, tick.value))

  /**
   * Enters a next content for the form on the bench; a figure that stands on others keeps only what
   * differs. `more` goes with it as one step.
   */
  function edit(
    what: string,
    next: Content,
    more: Partial<Pick<Figure, 'lengthTicks' | 'meter' | 'feel'>> = {},
  ): boolean {
    const shape = figure.value
    if (!shape || !store.song) return false
    return store.run('changeFigure', {
      figureId: shape.id,
      what,
      set: {
        ...more,
        ...(eased.value ? { eased: next } : storeContent(store.song, { ...shape, ...more }, next)),
      },
    })
  }
  const rows = computed<BenchRow[]>(() => [
    'grips',
    ...Array.from({ length: strings.value }, (_, index) => index + 1),
    'hand',
  ])
  function moveRow(by: number): void {
    const at = rows.value.indexOf(row.value)
    row.value = rows.value[Math.max(0, Math.min(rows.value.length - 1, at + by))]!
  }
  function moveTick(by: number): void {
    if (figure.value)
      tick.value = Math.max(
        0,
        Math.min(
          figure.value.lengthTicks - step.value,
          (Math.round(tick.value / step.value) + by) * step.value,
        ),
      )
  }
  function go(nextRow: BenchRow, nextTick: number): void {
    row.value = nextRow
    if (figure.value) tick.value = Math.max(0, Math.min(figure.value.lengthTicks - step.value, nextTick))
  }

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
  function articulate(articulation: Articulation, what: string): void {
    if (note.value)
      edit(what, changeNote(content.value, note.value.id, toggleArticulation(note.value, articulation)))
    else store.notice = { text: 'Put the cursor on a note first: type its fret.', kind: 'refusal' }
  }
  function bend(): void {
    const has = note.value?.articulations.find((articulation) => articulation.kind === 'bend')
    const shape = has?.kind === 'bend' ? has.shape : 'plain'
    const next = BEND_SEMITONES[has?.kind === 'bend' ? BEND_SEMITONES.indexOf(has.semitones) + 1 : 0]
    if (!note.value) articulate({ kind: 'bend', semitones: 2, shape }, 'bend')
    else {
      const rest = note.value.articulations.filter((articulation) => articulation !== has)
      edit(
        next === undefined ? 'no bend' : `bend of ${next} semitones`,
        changeNote(content.value, note.value.id, {
          articulations: next === undefined ? rest : [...rest, { kind: 'bend', semitones: next, shape }],
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
  function palmMute(): void {
    if (row.value === 'hand' || (!note.value && stroke.value)) {
      if (!stroke.value) return
      const { palmMute: before, ...rest } = stroke.value
      const next = nextPressure(before)
      edit(`${next ?? 'no'} palm mute`, setStroke(content.value, next ? { ...rest, palmMute: next } : rest))
    } else if (note.value) {
      const before = note.value.articulations.find((articulation) => articulation.kind === 'palm mute')
      const next = nextPressure(before?.kind === 'palm mute' ? before.pressure : undefined)
      const rest = note.value.articulations.filter((articulation) => articulation.kind !== 'palm mute')
      edit(
        `${next ?? 'no'} palm mute`,
        changeNote(content.value, note.value.id, {
          articulations: next ? [...rest, { kind: 'palm mute', pressure: next }] : rest,
        }),
      )
    }
  }
  function strike(direction: Stroke['direction'] | undefined, set: Partial<Stroke> = {}): void {
    if (!figure.value) return
    const way =
      direction ??
      usualDirection(tick.value, {
        meter: figure.value.meter,
        subdivision: figure.value.feel.subdivision,
        school: figure.value.school,
      })
    const old = stroke.value
    const next: Stroke = {
      id: old?.id ?? randomId(),
      startTicks: tick.value,
      lengthTicks: old?.lengthTicks ?? step.value,
      accent: old?.accent ?? false,
      dead: old?.dead ?? false,
      choke: old?.choke ?? false,
      ...(old?.strings ? { strings: old.strings } : {}),
      ...(old?.palmMute ? { palmMute: old.palmMute } : {}),
      direction: way,
      ...set,
    }
    if (edit(`${next.dead ? 'dead ' : ''}stroke ${way}`, setStroke(content.value, next)) && !old) moveTick(1)
  }
  function fillStrokes(): void {
    const shape = figure.value
    if (!shape) return
    let next = content.value
    for (let at = tick.value; at < shape.lengthTicks; at += step.value)
      if (!strokeAt(next, at))
        next = setStroke(next, {
          id: randomId(),
          startTicks: at,
          lengthTicks: step.value,
          direction: usualDirection(at, {
            meter: shape.meter,
            subdivision: shape.feel.subdivision,
            school: shape.school,
          }),
          accent: false,
          dead: false,
          choke: false,
        })
    edit('strokes by pendulum', next)
  }
  function accent(): void {
    if (note.value) edit('accent', changeNote(content.value, note.value.id, { accent: !note.value.accent }))
    else if (stroke.value)
      edit('accent', setStroke(content.value, { ...stroke.value, accent: !stroke.value.accent }))
  }
  function dead(): void {
    if (typeof row.value === 'number' && note.value) articulate({ kind: 'dead' }, 'dead note')
    else strike(stroke.value?.direction, { dead: !stroke.value?.dead })
  }
  function choke(): void {
    if (stroke.value) edit('choke', setStroke(content.value, { ...stroke.value, choke: !stroke.value.choke }))
  }
  function letRing(): void {
    if (typeof row.value === 'number' && note.value) {
      articulate({ kind: 'let ring' }, 'let ring')
      return
    }
    if (!figure.value) return
    const beat = beatTicks(figure.value.meter)
    const span = grip.value ?? { startTicks: Math.floor(tick.value / beat) * beat, lengthTicks: beat }
    const rings = content.value.mutes.some(
      (mute) =>
        mute.kind === 'let ring' &&
        mute.startTicks <= tick.value &&
        tick.value < mute.startTicks + mute.lengthTicks,
    )
    edit(
      rings ? 'no let ring' : 'let ring',
      setMuteSpan(
        content.value,
        rings
          ? { kind: 'let ring', startTicks: span.startTicks, lengthTicks: span.lengthTicks, clear: true }
          : { id: randomId(), kind: 'let ring', startTicks: span.startTicks, lengthTicks: span.lengthTicks },
      ),
    )
  }
  function lengthen(by: number): void {
    const change = by * step.value
    if (row.value === 'grips' && grip.value)
      edit(
        'grip length',
        changeGrip(content.value, grip.value.id, {
          lengthTicks: Math.max(step.value, grip.value.lengthTicks + change),
        }),
      )
    else if (note.value)
      edit(
        'note length',
        changeNote(content.value, note.value.id, {
          lengthTicks: Math.max(step.value, note.value.lengthTicks + change),
        }),
      )
    else if (stroke.value)
      edit(
        'stroke length',
        setStroke(content.value, {
          ...stroke.value,
          lengthTicks: Math.max(step.value, stroke.value.lengthTicks + change),
        }),
      )
  }
  function remove(): void {
    if (row.value === 'grips' && grip.value) edit('remove grip', removeGrip(content.value, grip.value.id))
    else if (row.value === 'hand' && stroke.value)
      edit('remove stroke', removeStroke(content.value, tick.value))
    else if (note.value) edit('remove note', removeNote(content.value, note.value.id))
  }
  return {
    row,
    tick,
    part,
    strings,
    step,
    form,
    showForm,
    eased,
    content,
    note,
    stroke,
    grip,
    edit,
    moveRow,
    moveTick,
    go,
    fret,
    digit,
    articulate,
    bend,
    dress,
    palmMute,
    strike,
    fillStrokes,
    accent,
    dead,
    choke,
    letRing,
    lengthen,
    remove,
  }
}
export type Bench = ReturnType<typeof useBench>
