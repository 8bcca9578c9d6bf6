<script setup lang="ts">
import { saveSongFile } from '~/composables/songFiles'
import { useShortcuts } from '~/composables/shortcuts'
import { useSong } from '~/stores/song'
import { useSheet } from './useSheet'

const store = useSong()
const sheet = useSheet()
const withRecording = ref(false)
const KINDS = [
  { title: 'Sheet', value: 'sheet' as const },
  { title: 'Other programs', value: 'programs' as const },
  { title: 'Play-along', value: 'backing' as const },
  { title: 'Song file', value: 'file' as const },
]
const kind = ref<(typeof KINDS)[number]['value']>('sheet')
const HEADINGS = {
  sheet: 'The sheet',
  programs: 'Other programs',
  backing: 'A track to play along to',
  file: 'The song file',
} as const
const show = (value: typeof kind.value) => () => {
  kind.value = value
}
useShortcuts([
  { keys: ['1'], label: 'The sheet', run: show('sheet') },
  { keys: ['2'], label: 'Files for other programs, and from them', run: show('programs') },
  { keys: ['3'], label: 'A track to play along to', run: show('backing') },
  { keys: ['4'], label: 'The song file', run: show('file') },
  { keys: ['p'], label: 'Print', run: () => sheet.print() },
  { keys: ['d'], label: 'Save the sheet as PDF', run: () => void sheet.pdf() },
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
      <ToggleRow v-model="kind" label="What is handed out" :items="KINDS" />
      <h2>{{ HEADINGS[kind] }}</h2>
      <SheetOptions v-if="kind === 'sheet'" :sheet="sheet" />
      <OtherPrograms v-else-if="kind === 'programs'" />
      <BackingTrack v-else-if="kind === 'backing'" />
      <SongFileOptions v-else v-model="withRecording" />
    </aside>
    <div class="pages">
      <div
        v-for="(page, index) in sheet.pages.value"
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
  gap: 16px;
  align-content: start;
  position: sticky;
  top: 0;
  align-self: start;
  /* As high as what is seen between head and player: longer choices scroll by themselves. */
  max-height: calc(100vh - 121px);
  overflow-y: auto;
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
  /* Pages that are not seen cost nothing. */
  content-visibility: auto;
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
    max-height: none;
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
    content-visibility: visible;
  }
  .paper-page:last-child {
    break-after: auto;
  }
}
</style>
