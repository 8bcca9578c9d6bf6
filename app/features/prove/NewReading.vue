<script setup lang="ts">
import { TICKS_PER_QUARTER } from '#core/time/meter'
import { chartedNote } from '#core/doubts/charted-note'
import { readClaim } from '#core/doubts/read-claim'
import { transposeSymbol } from '#core/music/chord-name'
import type { Claim, Doubt, DoubtReading } from '#core/document/schema'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'

// Another reading, typed in a few words; whose it is.
const props = defineProps<{ doubt: Doubt }>()
const emit = defineEmits<{ add: [reading: DoubtReading] }>()
const store = useSong()
const text = ref('')
const sourceId = ref('')
const sources = computed(() => [
  { title: 'my ear', value: '' },
  ...Object.values(store.song?.sources ?? {}).map(({ id, name }) => ({ title: name, value: id })),
])
/** Chords are typed as they are called here and kept as they sound. */
function sounding(claim: Claim): Claim {
  if (claim.kind === 'chord')
    return { ...claim, symbol: transposeSymbol(claim.symbol, -store.nameShift, store.spellingKey) }
  return claim.kind === 'note' ? { ...claim, midi: claim.midi - store.nameShift } : claim
}
function add(): void {
  const words = text.value.trim()
  const { song } = store
  if (!words || !song) return
  const { place } = props.doubt
  const charted = chartedNote(song, place, TICKS_PER_QUARTER)
  const claim = readClaim(words, {
    midi: charted && charted.midi + store.nameShift,
    isNote: (place.lengthTicks ?? 0) <= TICKS_PER_QUARTER,
  })
  const ofNote = claim && 'midi' in claim && claim.kind !== 'note' && charted
  const kept = ofNote ? { ...claim, midi: Math.round(charted.midi) } : claim && sounding(claim)
  emit('add', {
    id: randomId(),
    text: words,
    ...(sourceId.value ? { sourceId: sourceId.value } : {}),
    ...(kept ? { claim: kept } : {}),
    evidence: [],
  })
  text.value = ''
}
</script>

<template>
  <form class="row" @submit.prevent="add">
    <v-text-field
      v-model="text"
      class="text"
      label="Another reading"
      placeholder="a chord, a note, picked, bend 2, muted, five times …"
      persistent-placeholder
      maxlength="200"
      :disabled="Boolean(store.readOnly)"
      data-test="new-reading"
    />
    <SelectField
      v-model="sourceId"
      inline
      label="Whose reading"
      :items="sources"
      data-test="reading-source"
    />
    <ActButton type="submit" :disabled="!text.trim() || Boolean(store.readOnly)" data-test="add-reading"
      >Add it</ActButton
    >
  </form>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.text {
  flex: 1 1 380px;
}
</style>
