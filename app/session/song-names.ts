// The open song as many views read it: its form, the recording it is heard over, and what things are called
// by shape or as sounding.
import { mainSource, orderedParts, orderedSections, overSource, songTimeMap } from '#core/document/form'
import { bandShift, namingKey, shapeShift, stringName } from '#core/document/part-pitch'
import type { Grip, Part, Song } from '#core/document/schema'
import { gripFacts, writeGrip } from '#core/neck/grips/grip'
import { timelineOf } from '#core/timeline/timeline'
import { transposeSymbol } from '#core/music/chord-name'
import { romanNumeral } from '#core/music/roman'
import { keyName, pretty, spellPitchClass, transposeKey, type Key } from '#core/music/pitch'
import type { Ref } from 'vue'
import { usePreferences } from '../stores/preferences'

export function useSongNames(song: OpenSong) {
  return { ...useForm(song), ...useNaming(song) }
}

type OpenSong = Readonly<Ref<Song | undefined>>

function useForm(song: OpenSong) {
  const sections = computed(() => (song.value ? orderedSections(song.value) : []))
  const places = computed(() => (song.value ? timelineOf(song.value).places : []))
  const parts = computed(() => (song.value ? orderedParts(song.value) : []))
  /**
   * Which recording is listened to, when it is not the song's main one. Nothing of the document changes by
   * it.
   */
  const heardSourceId = ref<string>()
  /** The document seen over the recording that is listened to. */
  const heardSong = computed(() =>
    song.value && heardSourceId.value ? overSource(song.value, heardSourceId.value) : song.value,
  )
  const map = computed(() => (heardSong.value ? songTimeMap(heardSong.value) : undefined))
  const source = computed(() => (heardSong.value ? mainSource(heardSong.value) : undefined))
  const onMainSource = computed(() => !song.value || source.value?.id === mainSource(song.value)?.id)
  return { sections, places, parts, heardSourceId, heardSong, map, source, onMainSource }
}

function useNaming(song: OpenSong) {
  const preferences = usePreferences()
  /** Semitones from sounding names to the names shown for the whole band. */
  const nameShift = computed(() =>
    preferences.values.naming === 'shape' && song.value ? (bandShift(song.value) ?? 0) : 0,
  )
  /** The key that was heard, for as long as nobody has said one. */
  const heardKey = shallowRef<Key>()
  const spellingKey = computed<Key>(
    () =>
      (song.value?.keyUnknown ? heardKey.value : undefined) ??
      song.value?.key ?? { tonic: 'C', mode: 'major' },
  )
  const shownKey = computed(() => transposeKey(spellingKey.value, nameShift.value))
  const keyWords = computed(() => {
    if (!song.value) return ''
    if (song.value.keyUnknown) return 'key not known yet'
    return nameShift.value === 0
      ? keyName(song.value.key)
      : `${keyName(shownKey.value)} by shape, ${keyName(song.value.key)} as sounding`
  })
  const showSymbol = (symbol: string): string =>
    pretty(transposeSymbol(symbol, nameShift.value, shownKey.value))
  /** A name as it is shown, with its degree of the key when that is wanted. */
  function withDegree(shown: string): string {
    const numeral = preferences.values.numerals ? romanNumeral(shown, shownKey.value) : undefined
    return numeral ? `${pretty(shown)} ${numeral}` : pretty(shown)
  }
  /** A sounding chord to be read, not typed: its name and, when that is wanted, its degree. */
  const chordWords = (symbol: string): string =>
    withDegree(transposeSymbol(symbol, nameShift.value, shownKey.value))
  /** A sounding pitch class as it is named on the page. */
  const toneName = (pitchClass: number): string =>
    pretty(spellPitchClass((((pitchClass + nameShift.value) % 12) + 12) % 12, shownKey.value))
  const factsOf = (part: Part, grip: Grip) =>
    gripFacts(song.value!, part, grip, preferences.values.naming, preferences.hand)
  /** What stands over a grip: its best name, or its strings when it has none. */
  const gripName = (part: Part, grip: Grip): string => {
    const symbol = factsOf(part, grip).names[0]?.symbol
    return symbol ? withDegree(symbol) : writeGrip(grip)
  }
  const stringLabel = (part: Part, stringNumber: number): string =>
    stringName(song.value!, part, stringNumber, {
      strings: preferences.values.strings,
      naming: preferences.values.naming,
    })

  /** A chord of one part as it is named on the page, and back to what it sounds. */
  const partShift = (part: Part): number => (preferences.values.naming === 'shape' ? shapeShift(part) : 0)
  const shownChord = (part: Part, symbol: string): string =>
    transposeSymbol(symbol, partShift(part), namingKey(song.value!, part, preferences.values.naming))
  const soundingChord = (part: Part, shown: string): string =>
    transposeSymbol(shown, -partShift(part), song.value!.key)
  return {
    nameShift,
    heardKey,
    spellingKey,
    shownKey,
    keyWords,
    showSymbol,
    chordWords,
    toneName,
    factsOf,
    gripName,
    stringLabel,
    shownChord,
    soundingChord,
  }
}
