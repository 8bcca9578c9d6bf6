<script setup lang="ts">
import type { ListenLine } from '#core/engrave/listen-lines'

// What stands left of a ruled line: the section that begins there, or where the line goes on.
defineProps<{ line: ListenLine; width: number }>()
const emit = defineEmits<{ edit: [] }>()
</script>

<template>
  <div class="margin" :style="{ width: `${width}px` }">
    <template v-if="line.heading">
      <button
        class="plain name"
        :class="{ open: line.heading.suggested }"
        :title="`${line.heading.name}: name, type, return`"
        data-test="section-heading"
        @pointerdown.stop
        @click="emit('edit')"
      >
        {{ line.heading.name }}
      </button>
      <div class="mono quiet times">{{ line.heading.time }} {{ line.heading.bars }}</div>
      <div v-if="line.heading.returns" class="evidence returns">{{ line.heading.returns }}</div>
      <div v-if="line.leadIn" class="quiet returns">{{ line.leadIn }}</div>
    </template>
    <div v-else class="mono quiet times more">{{ line.continued }}</div>
  </div>
</template>

<style scoped>
.margin {
  position: absolute;
  left: 0;
  top: 0;
  padding-top: 2px;
  z-index: 2;
}
.name {
  font: 700 16.5px/1.15 var(--face-heading);
  display: block;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-height: 24px;
  padding-right: 5px;
}
.name:hover {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.times {
  font-size: 13.5px;
  white-space: nowrap;
}
.more {
  padding-top: 26px;
}
.returns {
  font-size: 13px;
  line-height: 1.2;
}
.name.open {
  color: var(--evidence);
  font-style: italic;
  text-decoration: underline dotted;
  text-underline-offset: 4px;
}
</style>
