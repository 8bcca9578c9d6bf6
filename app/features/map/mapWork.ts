// The cell of the map that keys and tools act on, and what they do to it.
import {
  cellPlacements,
  firstOpen,
  type Stretch,
  fitted,
  fittedToReturn,
  fittingPasses,
} from '#core/timeline/cells'
import { withPassFigure } from '#core/document/pass-figures'
import { barTicks, beatTicks } from '#core/time/meter'
import { ticksToSeconds } from '#core/time/beat-grid'
import { EMPTY_CONTENT, type Placement, type Section, type Song } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'

/** A new figure is at most this long: what one talks about in a lesson. */
const NEW_FIGURE_BARS = 4

const within = (value: number, count: number): number => Math.max(0, Math.min(count - 1, value))

/** Where the cursor of each song’s map was left, while the application is open. */
const cursorsLeft = new Map<string, { row: number; column: number }>()

function useMapCursor() {
  const store = useSong()
  const transport = useTransport()
  const songId = store.song?.id ?? ''
  const left = cursorsLeft.get(songId)
  const sounding = store.places.findIndex(({ section }) => section.id === transport.here?.sectionId)
  const row = ref(sounding === -1 ? (left?.row ?? 0) : sounding)
  const column = ref(left?.column ?? 0)
  watch([row, column], ([toRow, toColumn]) => cursorsLeft.set(songId, { row: toRow, column: toColumn }))
  const chosenPlacement = ref<string>()
  const section = computed<Section | undefined>(
    () => store.sections[within(row.value, store.sections.length)],
  )
  const part = computed(() => store.parts[within(column.value, store.parts.length)])
  const placements = computed(() =>
    store.song && section.value && part.value
      ? cellPlacements(store.song, section.value.id, part.value.id)
      : [],
  )
  /** The one that was pointed at, or else the last figure of the cell. */
  const placementHere = computed(
    () =>
      placements.value.find((placement) => placement.id === chosenPlacement.value) ??
      placements.value.findLast((placement) => placement.kind === 'figure') ??
      placements.value[0],
  )
  /** When a section begins in the recording, seconds. */
  const startOf = (index: number): number =>
    store.map ? ticksToSeconds(store.map, store.places[index]!.startTicks) : 0
  function choose(rowIndex: number, columnIndex: number, placementId?: string): void {
    row.value = within(rowIndex, store.sections.length)
    column.value = within(columnIndex, store.parts.length)
    chosenPlacement.value = placementId
    if (!transport.playing && !placementId) transport.seek(startOf(row.value))
  }
  /** Points at a section or a thing in it: the music goes there, playing or not. */
  function goTo(rowIndex: number, columnIndex = column.value, at?: Stretch): void {
    choose(rowIndex, columnIndex, at && at.kind !== 'open' ? at.placement.id : undefined)
    const place = store.places[row.value]
    if (store.map && place)
      transport.seek(ticksToSeconds(store.map, place.startTicks + (at?.startTicks ?? 0)))
  }
  return { row, column, chosenPlacement, section, part, placements, placementHere, startOf, choose, goTo }
}

/** Every change the map makes, on the cell at the cursor. */
export function useMapWork() {
  const store = useSong()
  const cursor = useMapCursor()
  const { section, part, placements, placementHere, chosenPlacement } = cursor
  const picking = ref(false)
  const copied = shallowRef<{ partId: string; placements: readonly Placement[] }>()
  const refuse = (text: string): void => {
    store.notice = { text, kind: 'refusal' }
  }
  const figuresHere = computed(() =>
    Object.values(store.song?.figures ?? {}).filter((figure) => figure.partId === part.value?.id),
  )
  const openHere = () =>
    store.song && section.value && part.value
      ? firstOpen(store.song, section.value, part.value.id)
      : undefined
  const toChart = (figureId: string): void =>
    void navigateTo(`/song/${store.song!.id}/chart?figure=${figureId}`)

  function place(figureId: string): void {
    picking.value = false
    if (!section.value || !part.value) return
    const open = openHere()
    if (!open) {
      refuse(`Everything in ${section.value.name} is charted for ${part.value.name}: remove something first.`)
      return
    }
    const id = randomId()
    const placed = store.run('setPlacement', {
      placement: {
        kind: 'figure',
        id,
        partId: part.value.id,
        sectionId: section.value.id,
        startTicks: open.startTicks,
        figureId,
        passes: Math.max(1, fittingPasses(store.song!.figures[figureId]!, open.lengthTicks)),
        shiftFrets: 0,
        form: 'exact',
      },
    })
    if (placed) chosenPlacement.value = id
  }

  function newFigure(): void {
    picking.value = false
    if (!part.value || !section.value) return
    const open = openHere()
    const { meter } = section.value.bars[0]!
    const room = open ? Math.floor(open.lengthTicks / barTicks(meter)) : NEW_FIGURE_BARS
    const bars = Math.max(1, Math.min(NEW_FIGURE_BARS, section.value.bars.length, room))
    const id = randomId()
    const made = store.run('addFigure', {
      figure: {
        id,
        partId: part.value.id,
        name: `${section.value.name.replace(/ \d+$/, '')} figure ${figuresHere.value.length + 1}`,
        lengthTicks: bars * barTicks(meter),
        meter,
        feel: section.value.feel ?? store.song!.feel,
        content: EMPTY_CONTENT,
      },
    })
    if (!made) return
    if (open) place(id)
    toChart(id)
  }

  function rests(): void {
    picking.value = false
    const open = openHere()
    if (!open) return
    store.run('setPlacement', {
      placement: {
        kind: 'rests',
        id: randomId(),
        partId: part.value!.id,
        sectionId: section.value!.id,
        startTicks: open.startTicks,
        lengthTicks: open.lengthTicks,
      },
    })
  }

  const change = (set: (placement: Placement) => Placement): void => {
    if (placementHere.value) store.run('setPlacement', { placement: set(placementHere.value) })
  }
  const changeFigure = (set: (placement: Extract<Placement, { kind: 'figure' }>) => Placement): void =>
    change((placement) => (placement.kind === 'figure' ? set(placement) : placement))

  function paste(): void {
    if (!copied.value || !section.value || !store.song) return
    if (copied.value.partId !== part.value?.id) {
      refuse('A figure belongs to its part: paste it in the same column.')
      return
    }
    const placements = fitted(store.song, copied.value.placements, section.value, randomId)
    const played = (all: readonly Placement[]): number =>
      all.reduce((sum, one) => sum + (one.kind === 'figure' ? one.passes : 0), 0)
    const lost = played(copied.value.placements) - played(placements)
    if (placements.length === 0) {
      refuse(`Nothing that was copied fits into ${section.value.name}: it is too short.`)
      return
    }
    const { partId } = copied.value
    const pasted = store.run('replaceCell', {
      partId,
      sectionId: section.value.id,
      placements,
      what: 'paste',
    })
    if (pasted && lost > 0)
      store.notice = {
        text: `${lost === 1 ? 'One time' : `${lost} times`} had no room in ${section.value.name}.`,
        kind: 'done',
      }
  }

  /** The whole row to every section that returns this one; where something is charted already, it is kept. */
  function copyToReturns(): void {
    const from = section.value
    if (!store.song || !from) return
    const targets = store.sections.filter((entry) => entry.returns?.sectionId === from.id)
    const cells = cellsToFill(store.song, from, targets)
    if (cells.length) store.run('replaceCells', { cells, what: `copy ${from.name} to its returns` })
    else if (targets.length) refuse(`What returns ${from.name} is charted already.`)
    else refuse(`No section is marked as returning ${from.name}: mark it in Listen.`)
  }

  return {
    ...cursor,
    picking,
    pick: (): void => {
      picking.value = true
    },
    figuresHere,
    place,
    newFigure,
    rests,
    paste,
    copyToReturns,
    remove: (): void => {
      if (placementHere.value) store.run('removePlacement', { placementId: placementHere.value.id })
    },
    passes: (by: number): void =>
      changeFigure((placement) => ({ ...placement, passes: Math.max(1, placement.passes + by) })),
    shiftFrets: (by: number): void =>
      changeFigure((placement) => ({ ...placement, shiftFrets: placement.shiftFrets + by })),
    moveBy: (bars: number): void =>
      change((placement) => ({
        ...placement,
        startTicks: placement.startTicks + bars * barTicks(section.value!.bars[0]!.meter),
      })),
    moveByBeats: (beats: number): void =>
      change((placement) => ({
        ...placement,
        startTicks: placement.startTicks + beats * beatTicks(section.value!.bars[0]!.meter),
      })),
    /** One pass of the placement plays another figure; its own again when that is the placed one. */
    setPass: (pass: number, figureId: string): void =>
      changeFigure((placement) => withPassFigure(placement, pass, figureId)),
    copy: (): void => {
      if (part.value) copied.value = { partId: part.value.id, placements: [...placements.value] }
    },
    open: (): void => {
      if (placementHere.value?.kind === 'figure') toChart(placementHere.value.figureId)
      else picking.value = true
    },
    /** Drops a placement on a cell; a copy when `copying`. */
    drop: (placementId: string, rowIndex: number, columnIndex: number, copying: boolean): void => {
      const target = store.sections[rowIndex]
      const player = store.parts[columnIndex]
      const placement = store.song?.placements[placementId]
      if (!placement || !target || !player || !store.song) return
      if (placement.partId !== player.id) {
        refuse('A figure belongs to its part: drop it in the same column.')
        return
      }
      const room = firstOpen(store.song, target, player.id)
      if (!room) {
        refuse(`Everything in ${target.name} is charted for ${player.name}: remove something first.`)
        return
      }
      const moved = {
        ...cutToRoom(store.song, placement, room.lengthTicks),
        id: copying ? randomId() : placement.id,
        sectionId: target.id,
        startTicks: room.startTicks,
      }
      if (store.run('setPlacement', { placement: moved })) cursor.choose(rowIndex, columnIndex)
    },
  }
}
export type MapWork = ReturnType<typeof useMapWork>

/** The cells of returns that would hold more than they do. */
function cellsToFill(song: Song, from: Section, targets: readonly Section[]) {
  const filled = (target: Section, partId: string) => {
    const own = cellPlacements(song, from.id, partId)
    const placements = fittedToReturn(song, own, target, partId, randomId)
    const more = placements.length > cellPlacements(song, target.id, partId).length
    return more ? [{ partId, sectionId: target.id, placements }] : []
  }
  return targets.flatMap((target) => song.partOrder.flatMap((partId) => filled(target, partId)))
}

/** A placement with no more passes, or no longer a rest, than there is room for. */
function cutToRoom(song: Song, placement: Placement, roomTicks: number): Placement {
  if (placement.kind === 'rests')
    return { ...placement, lengthTicks: Math.min(placement.lengthTicks, roomTicks) }
  const figure = song.figures[placement.figureId]
  const fitting = figure ? fittingPasses(figure, roomTicks) : 1
  return { ...placement, passes: Math.max(1, Math.min(placement.passes, fitting)) }
}
