<script setup lang="ts">
import type { ProveItem } from '#core/review/proof/prove-list'
import { landmarkWords } from '#core/timeline/landmarks'
import { clock } from '#core/time/beat-grid'
import type { Prove } from './useProve'

// Everything listed, in the order of the song.
const props = defineProps<{ prove: Prove }>()
const { items, chosen } = props.prove
const list = ref<HTMLElement>()
watch(chosen, () => list.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' }), {
  flush: 'post',
})
function words(item: ProveItem): string {
  if (item.kind === 'finding') return item.finding.words
  if (item.kind === 'doubt') return item.doubt.question
  return item.kind === 'landmark' ? landmarkWords(item.spot) : item.spot.text
}
function kindWords(item: ProveItem): string {
  if (item.kind === 'finding') return item.finding.kind
  if (item.kind === 'doubt') return item.done ? 'doubt, settled' : 'doubt'
  return item.kind
}
/** Cannot be so, not done yet, may be wanted: by form first. */
const formOf = (item: ProveItem): string => (item.kind === 'finding' ? item.finding.severity : item.kind)
</script>

<template>
  <ol ref="list" class="items" data-test="prove-list">
    <li v-for="item in items" :key="item.key">
      <button
        type="button"
        class="item"
        :class="[`is-${formOf(item).replace(' ', '-')}`, { done: item.done }]"
        :aria-current="item.key === chosen?.key"
        @click="prove.choose(item)"
      >
        <span class="top">
          <b>{{ kindWords(item) }}</b>
          <span v-if="item.seconds !== undefined" class="mono quiet">{{ clock(item.seconds) }}</span>
        </span>
        <span class="words">{{ words(item) || 'no question yet' }}</span>
        <span v-if="item.kind !== 'finding'" class="quiet where">{{ item.where }}</span>
      </button>
    </li>
  </ol>
</template>

<style scoped>
.items {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
.items li {
  border-bottom: 1px solid var(--rule);
}
.item {
  display: grid;
  gap: 2px;
  width: 100%;
  padding: 8px 8px 8px 12px;
  background: none;
  border: 0;
  border-left: 4px solid transparent;
  font: inherit;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.item:hover {
  background: var(--paper);
}
.item[aria-current='true'] {
  background: var(--selection);
}
.top {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  font-size: 14px;
}
.words {
  font-size: 14.5px;
  line-height: 1.35;
}
.where {
  font-size: 13px;
}
.is-wrong {
  border-left: 4px solid var(--attention);
}
.is-missing {
  border-left: 4px double var(--attention);
}
.is-look {
  border-left: 4px dotted var(--deep);
}
.is-doubt {
  border-left: 4px dashed var(--evidence);
}
.is-to-hear,
.is-landmark,
.is-remark {
  border-left: 4px solid var(--rule);
}
.done .words {
  color: var(--quiet);
}
</style>
