<script setup lang="ts">
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'

// The exact form and the eased one, and which recording or reading the figure was taken from.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const store = useSong()
const { content } = props.bench
const FORMS = [
  { title: 'exact', value: 'exact' as const },
  { title: 'eased', value: 'eased' as const, test: 'eased' },
]
const release = (): boolean => store.run('releaseFigure', { figureId: props.figure.id, from: 'eased' })
function ease(): void {
  if (
    store.run('changeFigure', {
      figureId: props.figure.id,
      what: 'an eased form',
      set: { eased: content.value },
    })
  )
    props.bench.showForm('eased')
}
const sources = computed(() => store.song?.sourceOrder.map((id) => store.song!.sources[id]!) ?? [])
const setSource = (sourceId: string): void => {
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: 'read from',
    set: { sourceId: sourceId || undefined },
  })
}

const sourceItems = computed(() => [
  { title: 'no one source', value: '' },
  ...sources.value.map((source) => ({ title: source.name, value: source.id })),
])
</script>

<template>
  <section>
    <h2 class="small-head">Forms</h2>
    <div v-if="figure.eased" class="other row">
      <ToggleRow
        label="Form on the bench"
        :items="FORMS"
        :model-value="bench.form.value"
        @update:model-value="bench.showForm"
      />
      <ActButton class="small" @click="release">no eased form</ActButton>
    </div>
    <ActButton v-else class="small" data-test="ease" @click="ease">Make an eased form</ActButton>
    <SelectField
      v-if="sources.length > 1"
      class="read-from"
      label="read from"
      :items="sourceItems"
      :model-value="figure.sourceId ?? ''"
      data-test="read-from"
      @update:model-value="setSource"
    />
  </section>
</template>

<style scoped>
.read-from {
  margin-top: 10px;
}
</style>
