<script setup lang="ts">
import type { SongRow } from '#platform/database'

defineProps<{ row: SongRow | undefined }>()
const emit = defineEmits<{ remove: []; keep: [] }>()
</script>

<template>
  <v-dialog
    aria-label="Remove a song"
    :model-value="Boolean(row)"
    max-width="460"
    @update:model-value="emit('keep')"
  >
    <v-card class="dialog">
      <h2>Remove “{{ row?.title }}”?</h2>
      <p>
        The song, its charts and its recording are deleted from this browser. Save it as a file first if you
        may want it again: this cannot be undone.
      </p>
      <div class="acts">
        <ActButton kind="main" class="danger" @click="emit('remove')">Remove it</ActButton>
        <ActButton @click="emit('keep')">Keep it</ActButton>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 22px 26px;
  display: grid;
  gap: 14px;
}
.acts {
  display: flex;
  gap: 12px;
  align-items: center;
}
.danger {
  background: var(--attention);
  color: rgb(var(--v-theme-on-error));
}
</style>
