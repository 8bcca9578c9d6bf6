<script setup lang="ts">
import { activeShortcuts, showKey } from '~/composables/shortcuts'

const open = defineModel<boolean>({ required: true })
const groups = computed(() => [...new Set(activeShortcuts.value.map((shortcut) => shortcut.group ?? 'This step'))].reverse().map((name) => ({ name, list: activeShortcuts.value.filter((shortcut) => (shortcut.group ?? 'This step') === name) })))
</script>

<template>
  <v-dialog v-model="open" max-width="860" aria-label="What the keys do here">
    <v-card class="help">
      <h2 id="help-title">What the keys do here</h2>
      <div class="groups">
        <section v-for="group in groups" :key="group.name"><h3>{{ group.name }}</h3>
          <dl><template v-for="entry in group.list" :key="entry.label"><dt><kbd v-for="key in entry.keys.slice(0, 2)" :key="key">{{ showKey(key) }}</kbd></dt><dd>{{ entry.label }}</dd></template></dl>
        </section>
      </div>
      <button class="main-button" @click="open = false">Close</button>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.help { padding: 22px 26px; }
.groups { columns: 2; column-gap: 34px; margin: 12px 0 18px; }
section { break-inside: avoid-column; margin-bottom: 16px; }
dl { display: grid; grid-template-columns: max-content 1fr; gap: 5px 14px; margin-top: 6px; align-items: center; }
dt { display: flex; gap: 4px; }
dd { font-size: 14.5px; }
.main-button { justify-self: start; width: fit-content; }
@media (max-width: 800px) { .groups { columns: 1; } }
</style>
