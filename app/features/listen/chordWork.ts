// Chords in the hand: choosing one on the lines, naming it, moving its ends, dividing it, taking it away,
// giving it to what returns. A chord that was only heard becomes the song's own by the first of these.
import { sectionPlaces } from '#core/document/form'
import {
  dividedChord,
  harmonyOfReturns,
  movedChord,
  movedEnd,
  renamedChord,
  withChord,
  withoutChord,
  type Chord,
  type Harmony,
} from '#core/document/harmony'
import { labelSymbol } from '#core/hear/decode/chord-labels'
import { readChordSymbol, transposeSymbol } from '#core/music/chord-name'
import { pretty } from '#core/music/pitch'
import { beatTicks, isCompound } from '#core/time/meter'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import { useChordChoice } from './chordChoice'
import type { ListenSheetWork } from './listenSheet'

interface Found {
  chord: Chord
  sectionId: string
  /** Of the section, in ticks of the song. */
  sectionStart: number
  sectionTicks: number
  meter: Parameters<typeof beatTicks>[0]
  /** The section's chords in the document. */
  harmony: Harmony
  /** Only heard so far. */
  suggested: boolean
}

export function useChordWork(view: ListenSheetWork) {
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()
  const { chosenChord } = view
  const choice = useChordChoice(view)
  const { drawn, span, reach } = choice

  /** The section of the document it belongs to, and its chords there; none before bars are accepted. */
  const found = computed<Found | undefined>(() => {
    const [one, song] = [drawn.value, store.song]
    if (!one || !song) return undefined
    const places = sectionPlaces(song)
    // What was only heard may lie in a section nobody has accepted: there the bars decide.
    const middle = one.tick + one.chord.lengthTicks / 2
    const place =
      places.find(({ section }) => section.id === one.sectionId) ??
      places.findLast(({ startTicks }) => startTicks <= middle) ??
      places[0]
    if (!place) return undefined
    const own = { ...one.chord, startTicks: one.tick - place.startTicks }
    const { harmony, bars } = place.section
    return {
      chord: own,
      sectionId: place.section.id,
      sectionStart: place.startTicks,
      sectionTicks: place.lengthTicks,
      meter: bars[0]?.meter ?? song.meter,
      harmony,
      suggested: !harmony.some(
        ({ startTicks, symbol }) => startTicks === own.startTicks && symbol === own.symbol,
      ),
    }
  })
  const suggested = computed(() => found.value?.suggested ?? true)
  /** Names heard for it, likeliest first, sounding. */
  const rivals = computed(() => {
    const { value } = span
    if (!value || !store.song) return []
    const heard = (hearing.analysis?.chords ?? [])
      .map((chord) => ({ chord, shared: Math.min(chord.end, value.to) - Math.max(chord.start, value.from) }))
      .filter(({ shared }) => shared > 0.05)
      .sort((a, b) => b.shared - a.shared)[0]?.chord
    const labels = heard ? [{ label: heard.label, share: heard.confidence }, ...heard.rivals] : []
    const names = labels
      .filter(({ label }, index) => label !== 'N' && labels.findIndex((one) => one.label === label) === index)
      .map(({ label, share }) => ({
        symbol: transposeSymbol(labelSymbol(label), 0, store.spellingKey),
        share,
      }))
    return names.slice(0, 3)
  })

  /** Half a beat, a third in compound meters. */
  const stepOf = ({ meter }: Found): number => beatTicks(meter) / (isCompound(meter) ? 3 : 2)

  /** One change to the chords of its section; `tick` is where the chosen chord begins afterwards. */
  function change(what: string, act: (own: Found) => { harmony: Chord[] | undefined; tick?: number }): void {
    if (!view.laidOut.value && !hearing.accept(['bars'])) return
    const { value } = found
    if (!value) return
    const taken = value.suggested ? withChord(value.harmony, value.chord) : [...value.harmony]
    const { harmony, tick } = act({ ...value, harmony: taken })
    if (!harmony) {
      store.notice = {
        text: 'There is no room for that: a neighbouring chord would be gone.',
        kind: 'refusal',
      }
      return
    }
    const done = store.run('changeChords', { what, sections: [{ sectionId: value.sectionId, harmony }] })
    if (done && tick !== undefined) chosenChord.value = value.sectionStart + tick
  }
  const symbolNow = (): string => store.showSymbol(drawn.value?.chord.symbol ?? '')

  function name(symbol: string): void {
    change(`${symbolNow()} is ${pretty(symbol)}`, ({ harmony, chord }) => ({
      harmony: renamedChord(harmony, chord.startTicks, symbol),
    }))
  }
  /** A name typed as it is shown, by shape or as sounding; false with a sentence when it is none. */
  function nameTyped(typed: string): boolean {
    const plain = typed.trim().replaceAll('♯', '#').replaceAll('♭', 'b')
    const symbol = plain && `${plain.charAt(0).toUpperCase()}${plain.slice(1)}`
    if (!symbol || !readChordSymbol(symbol)) {
      store.notice = {
        text: `“${typed}” is no chord I know: for example G, F#m7, Dsus4, E/G#.`,
        kind: 'refusal',
      }
      return false
    }
    name(transposeSymbol(symbol, -store.nameShift, store.spellingKey))
    return true
  }
  const move = (bySteps: number): void =>
    change(`move ${symbolNow()}`, (own) => {
      const byTicks = bySteps * stepOf(own)
      return {
        harmony: movedChord(own.harmony, own.chord.startTicks, within(own, byTicks)),
        tick: own.chord.startTicks + byTicks,
      }
    })
  const stretchEnd = (bySteps: number): void =>
    change(`${symbolNow()} ends ${bySteps < 0 ? 'earlier' : 'later'}`, (own) => ({
      harmony: movedEnd(own.harmony, own.chord.startTicks, within(own, bySteps * stepOf(own))),
    }))
  const within = (own: Found, byTicks: number) => ({
    byTicks,
    leastTicks: stepOf(own),
    earliestTicks: -beatTicks(own.meter),
    latestTicks: own.sectionTicks,
  })
  const divide = (): void =>
    change(`divide ${symbolNow()}`, (own) => {
      const step = stepOf(own)
      const half = own.chord.startTicks + Math.max(step, Math.round(own.chord.lengthTicks / 2 / step) * step)
      return { harmony: dividedChord(own.harmony, own.chord.startTicks, half), tick: half }
    })
  function remove(): void {
    change(`remove ${symbolNow()}`, ({ harmony, chord }) => ({
      harmony: withoutChord(harmony, chord.startTicks),
    }))
    chosenChord.value = undefined
  }
  function copyToReturns(): void {
    const { value } = found
    if (!value || !store.song) return
    const sections = harmonyOfReturns(store.song, value.sectionId)
    const from = store.song.sections[value.sectionId]?.name ?? ''
    if (sections.length) store.run('changeChords', { what: `chords of ${from} to its returns`, sections })
    else store.notice = { text: `No section returns ${from} yet: say so in its dialog (E).`, kind: 'refusal' }
  }
  function takeRival(rank: number): void {
    reach()
    const rival = rivals.value[rank]
    if (rival) name(rival.symbol)
  }
  function hearRival(rank: number): void {
    reach()
    const [rival, value] = [rivals.value[rank], span.value]
    if (rival && value) transport.hearCandidate(rival.symbol, value.from, value.to)
  }
  return {
    drawn,
    suggested,
    span,
    rivals,
    name,
    nameTyped,
    move,
    stretchEnd,
    divide,
    remove,
    copyToReturns,
    choose: choice.choose,
    step: choice.step,
    nextDoubt: choice.nextDoubt,
    takeRival,
    hearRival,
  }
}
export type ChordWork = ReturnType<typeof useChordWork>
