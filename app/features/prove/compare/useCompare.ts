// What stands beside what: a kind of comparison and what is chosen of it, and the bars that come of it.
import type { Section, Song, Source } from '#core/document/schema'
import {
  chordSide,
  compareSides,
  formSide,
  passSide,
  passesIn,
  sectionSide,
  type BarPair,
  type Side,
} from '#core/compare/compare-sides'
import { readWrittenChart, writtenFor } from '#core/exchange/text/written-chart'
import { transposeSymbol } from '#core/music/chord-name'
import { useSong } from '~/stores/song'

export const COMPARISONS = ['sections', 'passes', 'parts', 'written'] as const
export type Comparison = (typeof COMPARISONS)[number]

/** What is chosen; what is gone is replaced by what is there. */
function useChosen() {
  const store = useSong()
  const charts = computed((): Source[] =>
    Object.values(store.heardSong?.sources ?? {}).filter((source) => source.kind === 'written chart'),
  )
  const chosen = (ids: () => readonly string[], nth: number): Ref<string> => {
    const value = ref('')
    watch(
      ids,
      (list) => {
        if (!list.includes(value.value)) value.value = list[Math.min(nth, list.length - 1)] ?? ''
      },
      { immediate: true },
    )
    return value
  }
  const partIds = (): string[] => store.parts.map(({ id }) => id)
  const sectionIds = (): string[] => store.sections.map(({ id }) => id)
  // A section that comes back is what one looks at first.
  const first = store.sections.find(({ returns }) => returns)
  return {
    kind: ref<Comparison>('sections'),
    partId: chosen(partIds, 0),
    otherPartId: chosen(partIds, 1),
    sectionId: chosen(sectionIds, Math.max(0, sectionIds().indexOf(first?.returns?.sectionId ?? ''))),
    otherSectionId: chosen(sectionIds, first ? sectionIds().indexOf(first.id) : 1),
    pass: ref(1),
    otherPass: ref(2),
    sourceId: chosen(() => charts.value.map(({ id }) => id), 0),
    charts,
    sections: computed((): Section[] => store.sections),
  }
}
type Chosen = ReturnType<typeof useChosen>

function sidesOf(song: Song, written: (section: Section) => Side | undefined, chosen: Chosen) {
  const { kind, partId, otherPartId, sectionId, otherSectionId, pass, otherPass } = chosen
  const section = song.sections[sectionId.value]
  switch (kind.value) {
    case 'sections':
      return [
        sectionSide(song, sectionId.value, partId.value),
        sectionSide(song, otherSectionId.value, partId.value),
      ]
    case 'passes':
      return [
        passSide(song, sectionId.value, partId.value, pass.value),
        passSide(song, sectionId.value, partId.value, otherPass.value),
      ]
    case 'parts':
      return [
        sectionSide(song, sectionId.value, partId.value),
        sectionSide(song, sectionId.value, otherPartId.value),
      ]
    case 'written':
      return section ? [formSide(song, section.id), written(section)] : []
  }
}

export function useCompare() {
  const store = useSong()
  const chosen = useChosen()
  const song = computed(() => store.heardSong)
  const passes = computed(() =>
    song.value ? passesIn(song.value, chosen.sectionId.value, chosen.partId.value).length : 0,
  )
  const source = computed(() => chosen.charts.value.find(({ id }) => id === chosen.sourceId.value))
  const written = computed(() => readWrittenChart(source.value?.text ?? ''))
  /** What the written chart has for a section, as it sounds. */
  function writtenSide(section: Section): Side | undefined {
    const [doc, chart] = [song.value, source.value]
    const found = doc && chart && writtenFor(written.value, doc, section)
    if (!found) return undefined
    const sounding = (symbol: string): string =>
      transposeSymbol(symbol, chart.offsetSemitones, store.spellingKey)
    return chordSide(
      chart.name,
      section,
      found.bars.map((chords) => chords.map((chord) => ({ ...chord, symbol: sounding(chord.symbol) }))),
    )
  }
  const sides = computed(() => (song.value ? sidesOf(song.value, writtenSide, chosen) : []))
  const pairs = computed((): BarPair[] => {
    const [upper, lower] = sides.value
    if (!upper || !lower) return []
    return compareSides(upper, lower, { key: store.spellingKey, nameShift: store.nameShift })
  })
  const differing = computed(() => pairs.value.filter(({ difference }) => difference.words.length > 0))
  return { store, ...chosen, passes, source, written, sides, pairs, differing }
}
export type Compare = ReturnType<typeof useCompare>
