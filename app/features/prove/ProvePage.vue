<script setup lang="ts">
import { useShortcuts } from '~/composables/shortcuts'
import { useRecordingCheck } from '~/stores/recordingCheck'
import { useProve, type Shown } from './useProve'

// Is it right, is it all there? What is open on the left, one of it on the right.
const prove = useProve()
const against = useRecordingCheck()
const { store, chosen, sums, shown, check } = prove
const detail = ref<{ key: (number: number) => void; act: () => void; why: () => void }>()
function hold(): void {
  if (against.ready) void against.listen()
  else store.notice = { text: 'There is no recording here that the song is laid out over.', kind: 'refusal' }
}
const toCompare = (): void => void navigateTo(`/song/${store.song?.id}/compare`)
const LISTS: { title: string; value: Shown; test: string }[] = [
  { title: 'Open', value: 'open', test: 'show-open' },
  { title: 'Doubts', value: 'doubts', test: 'show-doubts' },
  { title: 'Notes', value: 'remarks', test: 'show-remarks' },
  { title: 'Done', value: 'done', test: 'show-done' },
]
useShortcuts([
  { keys: ['ArrowUp'], label: 'The one above', run: () => prove.step(-1) },
  { keys: ['ArrowDown'], label: 'The one below', run: () => prove.step(1) },
  { keys: ['1'], label: 'Hear the record there', run: () => detail.value?.key(1) },
  { keys: ['2'], label: 'Hear the first reading', run: () => detail.value?.key(2) },
  { keys: ['3'], label: 'Hear the second reading', run: () => detail.value?.key(3) },
  { keys: ['4'], label: 'Both readings, left and right', run: () => detail.value?.key(4) },
  { keys: ['f'], label: 'Mend it, where there is a way', run: () => detail.value?.act() },
  { keys: ['w'], label: 'Say why', run: () => detail.value?.why() },
  { keys: ['h'], label: 'Hold the chart against the record', run: hold },
  { keys: ['c'], label: 'Compare side by side', run: () => toCompare() },
  { keys: ['Enter'], label: 'Open its place', run: () => prove.open() },
])
</script>

<template>
  <div v-if="store.song" class="prove">
    <section class="list-side" aria-labelledby="to-prove">
      <h1 id="to-prove" class="head">
        To prove <span class="mono quiet" data-test="prove-sums">{{ sums.open }} open of {{ sums.all }}</span>
      </h1>
      <ToggleRow
        label="What is listed"
        :items="LISTS"
        :model-value="shown"
        @update:model-value="prove.show($event as Shown)"
      />
      <AgainstRecord />
      <ActButton kind="link" class="to-compare" data-test="to-compare" @click="toCompare"
        >Compare sections, passes, parts, a written chart <kbd>C</kbd></ActButton
      >
      <ProveList :prove="prove" />
    </section>
    <section class="one" aria-live="polite" aria-label="What is chosen">
      <template v-if="chosen">
        <FindingDetail
          v-if="chosen.kind === 'finding'"
          ref="detail"
          :key="chosen.key"
          :item="chosen"
          :prove="prove"
        />
        <DoubtDetail
          v-else-if="chosen.kind === 'doubt'"
          ref="detail"
          :key="chosen.key"
          :item="chosen"
          :prove="prove"
        />
        <NoteDetail v-else ref="detail" :key="chosen.key" :item="chosen" :prove="prove" />
      </template>
      <p v-else-if="!check" class="quiet" role="status">looking through the song…</p>
      <div v-else class="empty">
        <h2>{{ shown === 'open' ? 'Nothing is open' : 'Nothing here yet' }}</h2>
        <p v-if="shown === 'open'">
          Every bar is charted, everything adds up, every doubt is settled. Hand it out.
        </p>
        <p v-else>
          Press <kbd>F2</kbd> wherever you cannot tell what is played, <kbd>F4</kbd> where you want to listen
          again; on every page.
        </p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.prove {
  display: grid;
  grid-template-columns: minmax(280px, 360px) 1fr;
  gap: 0 36px;
  padding: 18px 24px 28px 20px;
  align-items: start;
}
.list-side {
  display: grid;
  gap: 12px;
}
.head {
  font-size: 22px;
}
.to-compare {
  justify-self: start;
}
.head .mono {
  font-size: 14px;
  font-weight: 400;
}
.one {
  position: sticky;
  top: 18px;
  display: grid;
  gap: 16px;
  max-width: 880px;
}
.empty {
  display: grid;
  gap: 8px;
  padding-top: 40px;
}
@media (max-width: 900px) {
  .prove {
    grid-template-columns: minmax(0, 1fr);
    gap: 22px;
  }
  .one {
    position: static;
    order: -1;
  }
}
</style>
