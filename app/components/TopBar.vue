<script setup lang="ts">
import { mdiUndo, mdiRedo, mdiThemeLightDark } from '@mdi/js'
import { useSong } from '~/stores/song'
import { usePreferences } from '~/stores/preferences'

const emit = defineEmits<{ help: [] }>()
const song = useSong()
const preferences = usePreferences()
const savedWords = computed(
  () => ({ saved: 'saved', saving: 'saving…', failed: 'not saved' })[song.saveState],
)
const NEXT = { system: 'light', light: 'dark', dark: 'system' } as const
const themeWords = computed(
  () =>
    ({ system: 'as the system', light: 'spruce (light)', dark: 'rosewood (dark)' })[preferences.values.theme],
)
</script>

<template>
  <header class="top">
    <template v-if="song.song">
      <h1 class="title">
        <NuxtLink :to="`/song/${song.song.id}/setup`">{{ song.song.title }}</NuxtLink>
      </h1>
      <span class="quiet artist">{{ song.song.artist }}</span>
      <span class="quiet key">{{ song.keyWords }}</span>
    </template>
    <span v-else class="title">Synchorda</span>
    <span class="space" />
    <template v-if="song.song">
      <MarkMenu />
      <ActButton
        kind="plain"
        class="act"
        :disabled="!song.undoLabel || Boolean(song.readOnly)"
        :aria-label="song.undoLabel ? `Undo: ${song.undoLabel}` : 'Nothing to undo'"
        data-test="undo"
        @click="song.undo()"
      >
        <v-icon :icon="mdiUndo" size="18" /><span v-if="song.undoLabel" class="label"
          >Undo: {{ song.undoLabel }}</span
        >
      </ActButton>
      <ActButton
        kind="plain"
        class="act"
        :disabled="!song.redoLabel || Boolean(song.readOnly)"
        :aria-label="song.redoLabel ? `Redo: ${song.redoLabel}` : 'Nothing to redo'"
        :title="song.redoLabel ? `Redo: ${song.redoLabel}` : ''"
        data-test="redo"
        @click="song.redo()"
      >
        <v-icon :icon="mdiRedo" size="18" />
      </ActButton>
      <span v-if="song.readOnly" class="attention" role="status" data-test="read-only">read-only</span>
      <span
        v-else
        :class="song.saveState === 'failed' ? 'attention' : 'quiet'"
        role="status"
        data-test="save-state"
        >{{ savedWords }}</span
      >
    </template>
    <ActButton
      kind="plain"
      class="act"
      :aria-label="`Look: ${themeWords}. Change`"
      :title="`Look: ${themeWords}`"
      @click="preferences.set('theme', NEXT[preferences.values.theme])"
    >
      <v-icon :icon="mdiThemeLightDark" size="18" />
    </ActButton>
    <ActButton kind="plain" class="act question" aria-label="What the keys do" @click="emit('help')"
      >?</ActButton
    >
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: baseline;
  gap: 18px;
  padding: 10px 20px 9px 24px;
  border-bottom: 1px solid var(--rule);
  min-height: 48px;
  white-space: nowrap;
  overflow: hidden;
}
.title {
  font: 700 21px var(--face-heading);
  color: var(--ink);
  text-decoration: none;
  overflow: hidden;
  text-overflow: ellipsis;
}
.title a {
  color: inherit;
  text-decoration: none;
}
.artist,
.key {
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 14.5px;
}
.space {
  flex: 1;
}
.act.v-btn {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-height: 28px;
  min-width: 24px;
  justify-content: center;
  color: var(--quiet);
  font-size: 14.5px;
}
.label {
  max-width: 260px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.act.question {
  font-weight: 700;
  font-size: 16px;
}
@media (max-width: 900px) {
  .key,
  .label {
    display: none;
  }
}
@media (max-width: 600px) {
  .top {
    gap: 8px;
    padding: 8px 12px;
  }
  .artist {
    display: none;
  }
}
</style>
