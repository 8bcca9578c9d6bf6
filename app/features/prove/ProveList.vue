<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import type { ProveGroup } from '#core/doubts/prove-groups'
import type { ProveItem } from '#core/doubts/prove-list'
import { landmarkWords } from '#core/timeline/landmarks'
import { clock } from '#core/time/beat-grid'
import type { Prove } from './useProve'

// Everything listed, by cause: what matters most first. Of a long row of one cause the first few stand there.
const props = defineProps<{ prove: Prove }>()
const { groups, chosen } = props.prove
const FEW = 3
/** Rows of one cause that somebody has opened. */
const opened = ref(new Set<string>())
function toggle({ key }: ProveGroup): void {
  const next = new Set(opened.value)
  if (!next.delete(key)) next.add(key)
  opened.value = next
}
/** All of a short row; of a long one all that is open, or has what is chosen in it. */
function shownOf(group: ProveGroup): ProveItem[] {
  const few = group.items.slice(0, FEW)
  const hidden = group.items.length > FEW + 1 && !opened.value.has(group.key)
  const inside = group.items.slice(FEW).some(({ key }) => key === chosen.value?.key)
  return hidden && !inside ? few : group.items
}
const list = ref<HTMLElement>()
/** Under the one that is chosen, as on a phone, the list would take it out of view. */
const isBeside = useMediaQuery('(min-width: 901px)')
watch(
  chosen,
  () => {
    if (isBeside.value) list.value?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' })
  },
  { flush: 'post' },
)
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
  <div ref="list" data-test="prove-list">
    <section v-for="group in groups" :key="group.key" class="group" :aria-label="group.cause">
      <h2 v-if="group.items.length > 1" class="cause">
        {{ group.cause }} <span class="quiet">{{ group.items.length }}</span>
      </h2>
      <ol class="items">
        <li v-for="item in shownOf(group)" :key="item.key">
          <button
            type="button"
            class="item"
            :class="[`is-${formOf(item).replace(' ', '-')}`, { done: item.done }]"
            :aria-current="item.key === chosen?.key"
            @click="prove.choose(item)"
          >
            <span class="top">
              <b v-if="group.items.length === 1 || kindWords(item) !== group.cause">{{ kindWords(item) }}</b>
              <span v-else class="visually-hidden">{{ kindWords(item) }}</span>
              <span v-if="item.seconds !== undefined" class="mono quiet">{{ clock(item.seconds) }}</span>
            </span>
            <span class="words">{{ words(item) || 'no question yet' }}</span>
            <span v-if="item.kind !== 'finding'" class="quiet where">{{ item.where }}</span>
          </button>
        </li>
      </ol>
      <ActButton
        v-if="group.items.length > FEW + 1"
        kind="link"
        class="more"
        :aria-expanded="shownOf(group).length === group.items.length"
        @click="toggle(group)"
      >
        {{
          shownOf(group).length < group.items.length
            ? `and ${group.items.length - FEW} more like these`
            : 'only the first of these'
        }}
      </ActButton>
    </section>
  </div>
</template>

<style scoped>
.items {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
.group + .group {
  margin-top: 16px;
}
.cause {
  font-size: 15px;
  margin: 0 0 6px;
}
.cause .quiet {
  font-weight: 400;
}
.more {
  margin: 6px 0 0 12px;
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
