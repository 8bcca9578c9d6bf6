<script setup lang="ts">
import type { DoubtReading } from '#core/document/schema'
import { verdictOf } from '#core/doubts/evidence'
import { useSong } from '~/stores/song'

// One reading of a doubt: what it says, whose it is, what the record says to it.
const props = defineProps<{
  reading: DoubtReading
  /** The key that sounds it. */
  number: number
  evidence: DoubtReading['evidence']
  decided: boolean
  settled: boolean
  listening: boolean
}>()
const emit = defineEmits<{ hear: []; decide: []; remove: [] }>()
const store = useSong()
const verdict = computed(() => (props.evidence.length ? verdictOf(props.evidence) : undefined))
const WORDS = { for: 'the record says so', against: 'the record says no', 'cannot tell': 'cannot tell' }
const source = computed(() => {
  const { sourceId } = props.reading
  return sourceId === undefined ? 'my ear' : (store.song?.sources[sourceId]?.name ?? '')
})
</script>

<template>
  <section class="reading" :class="{ decided }" :data-test="`reading-${number - 1}`">
    <header class="row">
      <ActButton :aria-label="`Hear ${reading.text}`" @click="emit('hear')"
        ><kbd>{{ number }}</kbd></ActButton
      >
      <h2 class="small-head">{{ reading.text }}</h2>
    </header>
    <p class="quiet from">{{ source }}</p>
    <ul v-if="evidence.length" class="evidence-list">
      <li
        v-for="one in evidence"
        :key="one.measured"
        :class="(one.speaks ?? 'cannot tell').replace(' ', '-')"
      >
        <span class="sign" aria-hidden="true">{{
          { for: '+', against: '−', 'cannot tell': '·' }[one.speaks ?? 'cannot tell']
        }}</span>
        {{ one.measured }}
      </li>
    </ul>
    <p v-if="verdict" class="verdict" :data-test="`verdict-${number - 1}`">
      <b :class="{ evidence: verdict === 'for', quiet: verdict !== 'for' }">{{ WORDS[verdict] }}</b>
    </p>
    <p v-else class="quiet">{{ listening ? 'listening…' : 'nothing about it can be measured' }}</p>
    <p v-if="decided" class="verdict"><b>decided</b></p>
    <div v-if="!settled" class="row">
      <ActButton
        class="small"
        :disabled="Boolean(store.readOnly)"
        :data-test="`decide-${number - 1}`"
        @click="emit('decide')"
      >
        Decide for it
      </ActButton>
      <ActButton kind="link" :disabled="Boolean(store.readOnly)" @click="emit('remove')">take away</ActButton>
    </div>
  </section>
</template>

<style scoped>
.reading {
  border-left: 3px dotted var(--deep);
  padding: 2px 0 2px 14px;
  display: grid;
  gap: 6px;
  align-content: start;
}
.decided {
  border-left: 3px solid var(--action);
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
.from {
  font-size: 13px;
}
.evidence-list {
  list-style: none;
  padding: 0;
  font-size: 14px;
  line-height: 1.4;
  display: grid;
  gap: 2px;
}
.sign {
  display: inline-block;
  width: 1em;
  font-weight: 700;
}
.for .sign {
  color: var(--evidence);
}
.against .sign {
  color: var(--attention);
}
</style>
