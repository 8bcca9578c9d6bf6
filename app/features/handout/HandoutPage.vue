<script setup lang="ts">
import { PAPERS, type Paper, type SheetPage } from '#core/engrave/sheet-blocks'
import { download, fileName } from '#platform/files'
import { saveSongFile } from '~/composables/songFiles'
import { usePlayingWork } from '~/composables/playingWork'
import { useShortcuts } from '~/composables/shortcuts'
import { useSong } from '~/stores/song'
import { usePreferences } from '~/stores/preferences'

const store = useSong()
const preferences = usePreferences()
const charted = computed(() =>
  store.parts.filter((part) =>
    Object.values(store.song?.figures ?? {}).some((figure) => figure.partId === part.id),
  ),
)
const leftOut = ref(new Set<string>())
const form = ref<'exact' | 'eased'>('exact')
const withRecording = ref(false)
const making = ref(false)
const problem = ref('')
const chosen = computed(() =>
  (charted.value.length ? charted.value : store.parts).filter((part) => !leftOut.value.has(part.id)),
)
/** The sheet, engraved in a worker: a long song takes seconds. */
const pages = shallowRef<SheetPage[]>([])
const engraving = ref<number>()
const work = usePlayingWork()
async function engrave(): Promise<void> {
  const { song } = store
  if (!song) return
  engraving.value = 0
  const options = {
    paper: preferences.values.paper,
    partIds: chosen.value.map((part) => part.id),
    naming: preferences.values.naming,
    strings: preferences.values.strings,
    form: form.value,
  }
  const made = await work.ask(
    { want: 'sheet', song, options },
    { onProgress: (_stage, fraction) => (engraving.value = fraction) },
  )
  // A newer sheet is already under way.
  if (!made.ok && made.refusal.code === 'cancelled') return
  engraving.value = undefined
  if (made.ok) pages.value = made.value
  else problem.value = 'The sheet could not be made. Reload the page and try again.'
}
watch([() => store.song, chosen, form, () => ({ ...preferences.values })], () => void engrave(), {
  immediate: true,
})
function stopEngraving(): void {
  work.stop()
  engraving.value = undefined
  // Pages of an older state are not what is asked for.
  pages.value = []
}
const papers = (Object.keys(PAPERS) as Paper[]).map((paper) => ({ title: paper, value: paper }))
const FORMS = [
  { title: 'exact', value: 'exact' as const },
  { title: 'eased where there is one', value: 'eased' as const },
]
const hasEased = computed(() => Object.values(store.song?.figures ?? {}).some((figure) => figure.eased))
function toggle(id: string): void {
  const next = new Set(leftOut.value)
  if (!next.delete(id)) next.add(id)
  leftOut.value = next
}
/** While the sheet is being engraved there is nothing to give out but an older state. */
const ready = computed(() => engraving.value === undefined && pages.value.length > 0)
async function pdf(): Promise<void> {
  if (!ready.value || making.value) return
  making.value = true
  problem.value = ''
  try {
    const { sheetPdf } = await import('#platform/pdf')
    download(
      await sheetPdf(pages.value, store.song!.title),
      `${fileName(store.song!.title)}.pdf`,
      'application/pdf',
    )
  } catch {
    problem.value = 'The PDF could not be made. Reload the page and try again, or use Print.'
  } finally {
    making.value = false
  }
}
function print(): void {
  if (ready.value) window.print()
}
useShortcuts([
  { keys: ['p'], label: 'Print', run: print },
  { keys: ['d'], label: 'Save the sheet as PDF', run: () => void pdf() },
  {
    keys: ['s'],
    label: 'Save the song file',
    run: () => {
      void saveSongFile(withRecording.value)
    },
  },
])
</script>

<template>
  <div v-if="store.song" class="handout">
    <aside class="side no-print" aria-label="What is handed out">
      <section>
        <h2>The sheet</h2>
        <p v-if="charted.length === 0" class="quiet">
          Nothing is charted yet: the sheet shows the form only.
        </p>
        <div role="group" aria-label="Parts on the sheet" class="group">
          <ActButton
            v-for="part in charted"
            :key="part.id"
            :aria-pressed="!leftOut.has(part.id)"
            @click="toggle(part.id)"
          >
            {{ part.name }}
          </ActButton>
        </div>
        <ToggleRow
          label="Paper"
          :items="papers"
          :model-value="preferences.values.paper"
          @update:model-value="preferences.set('paper', $event)"
        />
        <ToggleRow v-if="hasEased" v-model="form" label="Form of the figures" :items="FORMS" />
        <div class="group">
          <ActButton kind="main" data-test="pdf" :disabled="making || !ready" @click="pdf">
            {{ making ? 'Making the PDF…' : 'Save as PDF' }}</ActButton><ActButton
            data-test="print"
            :disabled="!ready"
            @click="print"
          >
            Print
          </ActButton>
        </div>
        <p v-if="engraving !== undefined" class="quiet" role="status" data-test="engraving">
          engraving the sheet, {{ Math.round(100 * engraving) }} %
          <v-btn size="x-small" variant="outlined" @click="stopEngraving">Stop</v-btn>
        </p>
        <ActButton v-else-if="pages.length === 0" data-test="engrave" @click="engrave"
          >Engrave the sheet</ActButton
        >
        <p v-else class="quiet mono" role="status">
          {{ pages.length }} {{ pages.length === 1 ? 'page' : 'pages' }}
        </p>
        <p v-if="problem" class="attention" role="alert">{{ problem }}</p>
      </section>
      <SongFileOptions v-model="withRecording" />
    </aside>
    <div class="pages">
      <div
        v-for="(page, index) in pages"
        :key="index"
        class="paper-page"
        :style="{ aspectRatio: `${page.width} / ${page.height}` }"
      >
        <MusicDrawing
          :primitives="page.primitives"
          :width="page.width"
          :height="page.height"
          unit="mm"
          :label="`Sheet page ${index + 1}`"
        />
      </div>
    </div>
  </div>
</template>

<style scoped>
.handout {
  display: grid;
  grid-template-columns: 288px 1fr;
  min-height: 100%;
}
.side {
  padding: 20px 18px 20px 20px;
  display: grid;
  gap: 30px;
  align-content: start;
  position: sticky;
  top: 0;
  align-self: start;
}
.side section {
  display: grid;
  gap: 12px;
}
.group {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.side p {
  font-size: 14px;
}
.main-button {
  justify-self: start;
}
.pages {
  padding: 20px 24px;
  background: var(--wood);
  display: grid;
  gap: 20px;
  justify-items: center;
}
.paper-page {
  width: min(100%, 860px);
  background: var(--page);
  border: 1px solid var(--rule);
}
.paper-page :deep(svg) {
  width: 100%;
  height: 100%;
}
@media (max-width: 900px) {
  .handout {
    grid-template-columns: 1fr;
  }
  .side {
    position: static;
    grid-template-columns: 1fr 1fr;
  }
}
@media print {
  .handout {
    display: block;
  }
  .pages {
    padding: 0;
    background: none;
    display: block;
  }
  .paper-page {
    border: 0;
    width: 100vw;
    max-width: none;
    break-after: page;
  }
  .paper-page:last-child {
    break-after: auto;
  }
}
</style>
