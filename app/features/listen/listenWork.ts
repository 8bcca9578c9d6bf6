// What the keys and tools of Listen do: to the form, the beats, and what is heard and not yet accepted.
import { secondsToTicks } from '#core/time/beat-grid'
import { beatTicks } from '#core/time/meter'
import { randomId } from '#platform/files'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { BeatWork } from './beatWork'
import type { ListenSheetWork } from './listenSheet'

/** Sections and chords: they act on the bar under the pointer, or else on the one that plays. */
function useFormWork(view: ListenSheetWork, editing: Ref<string | undefined>) {
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()
  const barNow = (): number | undefined => view.hovered.value?.barIndex ?? view.barAt(transport.position())
  const placeNow = () => {
    const barIndex = barNow()
    const place =
      barIndex === undefined ? undefined : store.places.findLast((entry) => entry.firstBar <= barIndex)
    return place && barIndex !== undefined
      ? { id: place.section.id, atBar: barIndex - place.firstBar }
      : undefined
  }
  function markSection(): void {
    if (!view.laidOut.value && !hearing.accept(['bars'])) return
    const place = placeNow()
    if (!place) return
    const id = randomId()
    const split = store.run('splitSection', {
      sectionId: place.id,
      atBar: place.atBar,
      newId: id,
      name: `Section ${store.sections.length + 1}`,
      kind: 'other',
    })
    if (split) editing.value = id
  }
  const withSection = (act: (id: string) => void): void => {
    const place = placeNow()
    if (place) act(place.id)
  }
  return {
    markSection,
    editSection: () =>
      withSection((id) => {
        editing.value = id
      }),
    mergeSection: () => withSection((id) => store.run('mergeSection', { sectionId: id })),
    moveStart: (byBars: number, byBeats = 0) =>
      withSection((id) => store.run('moveSectionStart', { sectionId: id, byBars, byBeats })),
    /** The beginning of a section dragged to a moment: the nearest beat there. */
    startAt(sectionId: string, seconds: number): void {
      const place = store.places.find((entry) => entry.section.id === sectionId)
      const { map } = store
      if (!map || !place) return
      const now = place.startTicks - place.section.pickupTicks
      const beat = beatTicks(place.section.bars[0]?.meter ?? { beats: 4, unit: 4 })
      const byBeats = Math.round((secondsToTicks(map, seconds) - now) / beat)
      if (byBeats) store.run('moveSectionStart', { sectionId, byBars: 0, byBeats })
    },
    startOnOnes: () => store.run('startOnOnes', {}),
  }
}

function useHeardWork(view: ListenSheetWork) {
  const hearing = useHearing()
  return {
    /** Takes the section of the chosen bar, or the one under the pointer, with its chords. */
    acceptLine(): void {
      const start = view.chosenBox.value?.bar.startSeconds ?? view.hovered.value?.seconds
      const sections = hearing.analysis?.sections ?? []
      if (start === undefined) return
      const over = sections.find((section) => start >= section.start - 0.1 && start < section.end - 0.1)
      const heard = over ?? sections[0]
      if (heard) hearing.accept(['sections', 'chords'], { startSeconds: heard.start, endSeconds: heard.end })
    },
  }
}

/** Beats and bars, one step at a time. */
function useStepping(view: ListenSheetWork, beats: BeatWork) {
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()
  const goTo = (seconds: number): void => {
    transport.seek(seconds)
    view.chosenBar.value = view.barAt(seconds + 0.001)
  }
  return {
    stepBeat(by: number): void {
      const list = beats.flat.value
      if (list.length === 0) return
      const from = view.chosenBeat.value ?? beats.nearest(transport.position())
      const index = Math.max(0, Math.min(list.length - 1, from + by))
      view.chosenBeat.value = index
      goTo(list[index]!.seconds)
    },
    stepBar(by: number): void {
      const own = store.source?.grid?.bars.map((bar) => bar.beatSeconds[0]!)
      const starts = own ?? hearing.analysis?.downbeats ?? []
      const here = view.barAt(transport.position() + 0.001) ?? 0
      const next = starts[Math.max(0, Math.min(starts.length - 1, here + by))]
      if (next === undefined) return
      goTo(next)
      if (view.laidOut.value) view.chosenBeat.value = beats.nearest(next)
    },
  }
}

/** Everything Listen does by key or button. `editing` is the section whose dialog is open. */
export function useListenWork(view: ListenSheetWork, beats: BeatWork, editing: Ref<string | undefined>) {
  const store = useSong()
  const transport = useTransport()
  const hearing = useHearing()
  const chosenSeconds = (): number =>
    (view.chosenBeat.value === undefined ? undefined : beats.flat.value[view.chosenBeat.value]?.seconds) ??
    transport.position()
  /** Corrections act on the document: heard bars are accepted first. */
  const withBars = (act: () => void): void => {
    if (!store.onMainSource)
      store.notice = {
        text: 'You are listening to another recording: switch back (O) to correct bars and beats.',
        kind: 'refusal',
      }
    else if (view.laidOut.value || hearing.accept(['bars'])) act()
  }
  return {
    ...useFormWork(view, editing),
    ...useHeardWork(view),
    ...useStepping(view, beats),
    theOne: (fromHereOnly: boolean) => withBars(() => beats.theOne(chosenSeconds(), fromHereOnly)),
    insertBeat: () => withBars(() => beats.insert(transport.position())),
    removeBeat: () => withBars(() => beats.remove(chosenSeconds())),
    halve: () => withBars(() => beats.halve()),
    double: () => withBars(() => beats.double()),
    free: () => {
      const { loop } = transport
      if (loop) withBars(() => beats.free(loop.startSeconds, loop.endSeconds))
    },
    nudge(bySeconds: number): void {
      if (!store.onMainSource || !view.laidOut.value) {
        withBars(() => undefined)
        return
      }
      const index = view.chosenBeat.value ?? beats.nearest(transport.position())
      if (beats.nudge(index, bySeconds)) view.chosenBeat.value = index
    },
  }
}
export type ListenWork = ReturnType<typeof useListenWork>
