<script setup lang="ts">
import { useTheme } from 'vuetify'
import { anythingUnsaved } from '~/session/open-song'
import { useSong } from '~/stores/song'
import { usePreferences } from '~/stores/preferences'
import { useShortcuts } from '~/composables/shortcuts'

const song = useSong()
const preferences = usePreferences()
const theme = useTheme()
const route = useRoute()
/** On the stand nothing else can be reached. */
const onStand = computed(() => route.path.endsWith('/stand'))
const helpOpen = ref(false)
const ready = ref(false)
onMounted(async () => {
  await preferences.load()
  ready.value = true
})
watchEffect(() => {
  void theme.change(preferences.values.theme)
})
useShortcuts([
  { keys: ['mod+z'], label: 'Undo', run: () => song.undo(), group: 'Everywhere' },
  { keys: ['mod+Shift+z', 'mod+y'], label: 'Redo', run: () => song.redo(), group: 'Everywhere' },
  {
    keys: ['?'],
    label: 'This list',
    run: () => {
      helpOpen.value = !helpOpen.value
    },
    group: 'Everywhere',
  },
])
// A change still on its way to the disk: ask before the window closes.
onMounted(() =>
  window.addEventListener('beforeunload', (event) => {
    if (anythingUnsaved() || (song.song && song.saveState !== 'saved')) event.preventDefault()
  }),
)
</script>

<template>
  <v-app>
    <div v-if="ready" class="frame">
      <TopBar class="no-print" :inert="onStand" @help="helpOpen = true" />
      <div class="middle">
        <StepRail class="no-print" :inert="onStand" />
        <main class="stage"><NuxtPage /></main>
      </div>
      <PlayingBar v-if="song.song" class="no-print" :inert="onStand" />
    </div>
    <ShortcutHelp v-model="helpOpen" />
    <NoticeLine />
    <UpdateLine />
    <QuestionDialog />
    <GuidedWalk />
  </v-app>
</template>

<style scoped>
.frame {
  height: 100dvh;
  display: grid;
  grid-template-rows: auto 1fr auto;
  background: var(--page);
  color: var(--ink);
}
.middle {
  display: grid;
  grid-template-columns: 108px 1fr;
  min-height: 0;
}
.stage {
  min-width: 0;
  min-height: 0;
  overflow: auto;
  position: relative;
}
@media (max-width: 900px) {
  .middle {
    grid-template-columns: 68px 1fr;
  }
}
@media (max-width: 600px) {
  .middle {
    grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  }
}
@media print {
  .frame {
    display: block;
    height: auto;
  }
  .middle {
    display: block;
  }
  .stage {
    overflow: visible;
  }
}
</style>
