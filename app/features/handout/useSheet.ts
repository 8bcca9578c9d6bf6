// The sheet as it is wanted: what is on it, engraved in a worker, given out as PDF, SVG, PNG or print.
import type { Part } from '#core/document/schema'
import type { SheetOptions, SheetPage } from '#core/engrave/sheet-blocks'
import { pageSvg } from '#core/engrave/svg'
import { download, fileName } from '#platform/files'
import { usePlayingWork } from '~/composables/playingWork'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

const WHOLE = ''
const GRIPS = 'grips'
const SCALES = 'scales'

export function useSheet() {
  const store = useSong()
  const preferences = usePreferences()
  const charted = computed(() =>
    store.parts.filter((part) =>
      Object.values(store.song?.figures ?? {}).some((figure) => figure.partId === part.id),
    ),
  )
  const leftOut = ref(new Set<string>())
  const chosen = computed(() =>
    (charted.value.length ? charted.value : store.parts).filter((part) => !leftOut.value.has(part.id)),
  )
  function toggle(id: string): void {
    const next = new Set(leftOut.value)
    if (!next.delete(id)) next.add(id)
    leftOut.value = next
  }
  const form = ref<'exact' | 'eased'>('exact')
  const reader = ref<'student' | 'teacher'>('teacher')
  /** The whole song, a section, a figure, or grips only. */
  const scope = ref(WHOLE)
  const scopes = computed(() => scopesOf(chosen.value))
  function scopesOf(parts: readonly Part[]): { title: string; value: string }[] {
    const { song } = store
    if (!song) return []
    const figures = Object.values(song.figures).filter((figure) =>
      parts.some((part) => part.id === figure.partId),
    )
    return [
      { title: 'the whole song', value: WHOLE },
      { title: 'grips only', value: GRIPS },
      { title: 'scales on the neck', value: SCALES },
      ...song.sectionOrder.map((id) => ({ title: song.sections[id]!.name, value: `section ${id}` })),
      ...figures.map(({ id, name }) => ({ title: `figure: ${name}`, value: `figure ${id}` })),
    ]
  }
  watch(scopes, (list) => {
    if (!list.some(({ value }) => value === scope.value)) scope.value = WHOLE
  })

  const options = computed((): SheetOptions => {
    const [kind, id] = scope.value.split(' ')
    return {
      paper: preferences.values.paper,
      partIds: chosen.value.map((part) => part.id),
      naming: preferences.values.naming,
      strings: preferences.values.strings,
      form: form.value,
      reader: reader.value,
      ...(kind === 'section' && id ? { sectionId: id } : {}),
      ...(kind === 'figure' && id ? { figureId: id } : {}),
      ...(kind === GRIPS ? { only: GRIPS } : {}),
      ...(kind === SCALES ? { only: SCALES } : {}),
      numerals: preferences.values.numerals,
      leftHanded: preferences.values.leftHanded,
    }
  })
  const pages = shallowRef<SheetPage[]>([])
  const engraving = ref<number>()
  const problem = ref('')
  const work = usePlayingWork()
  async function engrave(): Promise<void> {
    const { song } = store
    if (!song) return
    engraving.value = 0
    const made = await work.ask(
      { want: 'sheet', song, options: options.value },
      { onProgress: (_stage, fraction) => (engraving.value = fraction) },
    )
    // A newer sheet is already under way.
    if (!made.ok && made.refusal.code === 'cancelled') return
    engraving.value = undefined
    if (made.ok) pages.value = made.value
    else problem.value = 'The sheet could not be made. Reload the page and try again.'
  }
  watch([() => store.song, options], () => void engrave(), { immediate: true })
  function stop(): void {
    work.stop()
    engraving.value = undefined
    // Pages of an older state are not what is asked for.
    pages.value = []
  }

  /** While the sheet is being engraved there is nothing to give out but an older state. */
  const ready = computed(() => engraving.value === undefined && pages.value.length > 0)
  const making = ref(false)
  async function give(make: (title: string) => Promise<void>): Promise<void> {
    if (!ready.value || making.value || !store.song) return
    making.value = true
    problem.value = ''
    try {
      await make(store.song.title)
    } catch {
      problem.value = 'The file could not be made. Reload the page and try again, or use Print.'
    } finally {
      making.value = false
    }
  }
  const pdf = (): Promise<void> =>
    give(async (title) => {
      const { sheetPdf } = await import('#platform/pdf')
      download(await sheetPdf(pages.value, title), `${fileName(title)}.pdf`, 'application/pdf')
    })
  const picture = (kind: 'svg' | 'png'): Promise<void> =>
    give(async (title) => {
      const { savePictures, fontFaces } = await import('#platform/pictures')
      const faces = await fontFaces()
      const svgs = pages.value.map((page) => pageSvg(page, title, faces))
      await savePictures(kind, svgs, fileName(title))
    })
  function print(): void {
    if (!ready.value) return
    // The paper goes along, else a browser puts A4 on whatever it has.
    const paper = new CSSStyleSheet()
    paper.replaceSync(`@page { size: ${preferences.values.paper === 'A4' ? 'A4' : 'letter'}; margin: 0 }`)
    const before = document.adoptedStyleSheets
    document.adoptedStyleSheets = [...before, paper]
    window.print()
    document.adoptedStyleSheets = before
  }
  return {
    charted,
    leftOut,
    toggle,
    form,
    reader,
    scope,
    scopes,
    pages,
    engraving,
    engrave,
    stop,
    problem,
    ready,
    making,
    pdf,
    picture,
    print,
  }
}
