<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiDeleteOutline, mdiPlus } from '@mdi/js'
import { INSTRUMENTS } from '#core/instrument/instruments'
import type { Part } from '#core/document/schema'
import { useSong } from '~/stores/song'

// The parts of the band, in the order they are shown everywhere.
defineProps<{ chosen: string | undefined }>()
const emit = defineEmits<{ choose: [partId: string]; add: [] }>()
const store = useSong()
const moveBy = (part: Part, by: number): void => {
  store.run('movePart', { partId: part.id, to: Math.max(0, store.parts.indexOf(part) + by) })
}
</script>

<template>
  <section aria-label="The band">
    <h2>The band</h2>
    <p v-if="store.parts.length === 0" class="quiet">
      No parts yet. Add what you hear: one part for each guitar and bass.
    </p>
    <ul class="parts">
      <li
        v-for="(part, index) in store.parts"
        :key="part.id"
        class="part"
        :class="{ chosen: part.id === chosen }"
      >
        <ActButton
          kind="plain"
          class="choose"
          :aria-pressed="part.id === chosen"
          @click="emit('choose', part.id)"
        >
          <b>{{ part.name }}</b><span class="quiet"
            >{{ INSTRUMENTS[part.instrument.kind].name.toLowerCase() }},
            {{ part.tuning.name.toLowerCase() }}</span
          >
        </ActButton>
        <ActButton
          kind="plain"
          class="quiet sign"
          :disabled="index === 0"
          :aria-label="`Move ${part.name} up`"
          @click="moveBy(part, -1)"
        >
          <v-icon :icon="mdiArrowUp" size="18" />
        </ActButton>
        <ActButton
          kind="plain"
          class="quiet sign"
          :disabled="index === store.parts.length - 1"
          :aria-label="`Move ${part.name} down`"
          @click="moveBy(part, 1)"
        >
          <v-icon :icon="mdiArrowDown" size="18" />
        </ActButton>
        <ActButton
          kind="plain"
          class="quiet sign"
          :aria-label="`Remove ${part.name}`"
          @click="store.run('removePart', { partId: part.id })"
        >
          <v-icon :icon="mdiDeleteOutline" size="18" />
        </ActButton>
      </li>
    </ul>
    <ActButton kind="main" once data-test="add-part" @click="emit('add')">
      <v-icon :icon="mdiPlus" size="18" /> Add a part
    </ActButton>
  </section>
</template>

<style scoped>
.parts {
  list-style: none;
  padding: 0;
  margin: 8px 0 14px;
  border-top: 1px solid var(--rule);
}
.part {
  display: flex;
  align-items: center;
  gap: 4px;
  border-bottom: 1px solid var(--rule);
  padding: 3px 4px;
}
.part.chosen {
  background: var(--selection);
}
.sign {
  min-width: 26px;
}
.choose.v-btn {
  flex: 1;
  justify-content: start;
  padding: 5px 4px;
  text-align: left;
}
.choose :deep(.v-btn__content) {
  display: grid;
  gap: 0;
  white-space: normal;
}
.choose span {
  font-size: 13.5px;
}
.part.chosen .quiet {
  color: var(--ink);
}
.main-button {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
</style>
