<script setup lang="ts">
import type { FoldedLine } from '#core/teach/folded'

// The part in short: a line a section, the one that is played marked and kept in view.
const props = defineProps<{
  lines: readonly FoldedLine[]
  sectionId: string | undefined
  /** Of the figures on the stand, px. */
  size: number
}>()
const list = ref<HTMLElement>()
watch(
  () => props.sectionId,
  () => list.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' }),
  { flush: 'post' },
)
</script>

<template>
  <ol ref="list" class="folded" tabindex="0" aria-label="The part in short" data-test="folded">
    <li
      v-for="line in lines"
      :key="line.sectionId"
      :aria-current="line.sectionId === sectionId ? 'step' : undefined"
      :style="{ fontSize: `${Math.max(26, size * 0.5)}px` }"
    >
      <b>{{ line.name }}</b> {{ line.words }}
    </li>
  </ol>
</template>

<style scoped>
.folded {
  flex: 1;
  margin: 0;
  padding: 0;
  list-style: none;
  overflow: auto;
}
.folded li {
  padding: 2px 12px;
  border-left: 6px solid transparent;
}
.folded li[aria-current='step'] {
  border-left-color: var(--action);
  background: var(--selection);
}
</style>
