// Lines by rule to the figure on the bench, one or two at once: made, looked at, taken out of the rule note
// by note, kept linked and placed.
import { chordsOver, derivedContent } from '#core/neck/lines/derive'
import type { HarmonyLine } from '#core/neck/lines/harmony-line'
import { neckWishWords } from '#core/neck/lines/neck-wish'
import { placesLike } from '#core/document/places-like'
import {
  EMPTY_CONTENT,
  type Content,
  type Figure,
  type LineDerivation,
  type NeckWish,
  type Placement,
} from '#core/document/schema'
import type { Key } from '#core/music/pitch'
import { randomId } from '#platform/files'
import { plain } from '#platform/plain'
import { usePlayingWork } from '~/composables/playingWork'
import { useSong } from '~/stores/song'
import type { Beside } from '../beside'
import type { Bench } from '../benchKeys'
import { intervalWords } from './intervals'

type Exceptions = LineDerivation['exceptions']
/** One line wanted: its interval in steps of the scale, negative below, and where it leaves the rule. */
export interface Voice {
  interval: number
  exceptions: Exceptions
}
export interface MadeVoice {
  interval: number
  line: HarmonyLine
}

interface Facts {
  bench: Bench
  figure: () => Figure
  show: (what: Beside | undefined) => void
}

/** The voices as one thing to look at or hear beside the figure. */
const together = (made: readonly MadeVoice[]): Content => ({
  ...EMPTY_CONTENT,
  notes: made.flatMap(({ line }, voice) =>
    line.notes.map((note) => ({ ...note, id: `${note.id}v${voice}` })),
  ),
})

export function useHarmony({ bench, figure, show }: Facts) {
  const store = useSong()
  const work = usePlayingWork()
  const { part, content } = bench
  const voices = ref<Voice[]>([{ interval: -3, exceptions: [] }])
  const kind = ref<'diatonic' | 'parallel'>('diatonic')
  const key = ref<Key>({ ...(store.song?.key ?? { tonic: 'C', mode: 'major' }) })
  const target = ref(figure().partId)
  const where = ref<NeckWish>({})
  const made = shallowRef<MadeVoice[]>([])
  const problem = ref('')

  function clear(): void {
    made.value = []
    for (const voice of voices.value) voice.exceptions = []
    show(undefined)
  }
  watch([() => figure().id, content], clear)

  const ruleOf = (voice: Voice): Omit<LineDerivation, 'figureId'> => ({
    interval: voice.interval,
    kind: kind.value,
    key: key.value,
    exceptions: voice.exceptions,
    ...(Object.keys(where.value).length ? { where: where.value } : {}),
  })

  async function make(): Promise<void> {
    problem.value = ''
    const to = store.song?.parts[target.value]
    if (!part.value || !store.song || !to) return
    const found: MadeVoice[] = []
    for (const voice of voices.value) {
      const line = await work.ask({
        want: 'harmony',
        content: content.value,
        from: part.value,
        to,
        rule: plain(ruleOf(voice)),
        chords: chordsOver(store.song, figure()),
      })
      if (!line.ok) {
        if (line.refusal.code === 'cancelled') return
        made.value = []
        problem.value = line.refusal.message
        return
      }
      found.push({ interval: voice.interval, line: line.value })
    }
    made.value = found
    const words = found.map(({ interval }) => intervalWords(interval)).join(' and ')
    show({ title: `${words}, for ${to.name}`, content: together(found), partId: to.id })
  }
  watch([() => voices.value.map(({ interval }) => interval).join(), kind, key, target, where], () => {
    if (made.value.length === 0) return
    for (const voice of voices.value) voice.exceptions = []
    void make()
  })

  /** Takes a note of a voice out of the rule: so many half steps from the first line there. */
  function except(voice: number, startTicks: number, semitones: number, why: string): void {
    const wanted = voices.value[voice]
    if (!wanted) return
    const others = wanted.exceptions.filter((one) => one.startTicks !== startTicks)
    wanted.exceptions = [...others, { startTicks, semitones, why }]
    void make()
  }
  function backToRule(voice: number, startTicks: number): void {
    const wanted = voices.value[voice]
    if (!wanted) return
    wanted.exceptions = wanted.exceptions.filter((one) => one.startTicks !== startTicks)
    void make()
  }

  const lineFigure = ({ interval, line }: MadeVoice, voice: Voice): Figure => {
    const { id, name, lengthTicks, meter, feel } = figure()
    const place = neckWishWords(where.value)
    return {
      id: randomId(),
      partId: target.value,
      name: `${name}, ${intervalWords(interval)}${place && ` ${place}`}`.slice(0, 80),
      lengthTicks,
      meter,
      feel,
      content: derivedContent(content.value, line),
      derivedFrom: { figureId: id, ...plain(ruleOf(voice)) },
    }
  }
  /** Where the first line plays and the chosen part has nothing yet. */
  const freePlaces = computed(() =>
    store.song
      ? placesLike(store.song, figure().id, {
          id: 'line',
          partId: target.value,
          lengthTicks: figure().lengthTicks,
        })
      : [],
  )
  /** Keeps the lines linked to the first; the first of them is placed when asked. Returns its id. */
  function keep(placed: boolean): string | undefined {
    if (made.value.length === 0) return undefined
    const figures = made.value.map((voice, index) => lineFigure(voice, voices.value[index]!))
    const first = figures[0]!
    const placements = (placed ? freePlaces.value : []).map((place): Placement => ({
      ...place,
      id: randomId(),
      figureId: first.id,
    }))
    const what = figures.length > 1 ? `${figures.length} lines to “${figure().name}”` : `“${first.name}”`
    if (!store.run('addPlacedFigures', { what: `new: ${what}`.slice(0, 120), figures, placements }))
      return undefined
    show(undefined)
    return first.id
  }
  return {
    voices,
    kind,
    key,
    target,
    where,
    made,
    problem,
    make,
    except,
    backToRule,
    freePlaces,
    keep,
    together,
  }
}
