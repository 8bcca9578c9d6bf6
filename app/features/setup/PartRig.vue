<script setup lang="ts">
import { orderedSections } from '#core/document/form'
import type { Part } from '#core/document/schema'
import { useSong } from '~/stores/song'

// What a part is played through: everywhere, or as it is in one section.
const props = defineProps<{ part: Part }>()
const store = useSong()
const EVERYWHERE = ''
const where = ref(EVERYWHERE)
watch(
  () => props.part.id,
  () => {
    where.value = EVERYWHERE
  },
)
const places = computed(() => [
  { title: 'the whole song', value: EVERYWHERE },
  ...(store.song ? orderedSections(store.song) : []).map(({ id, name }) => ({
    title: props.part.sectionRigs?.some(({ sectionId }) => sectionId === id) ? `${name} (its own)` : name,
    value: id,
  })),
])
</script>

<template>
  <section class="rig" aria-label="Rig">
    <div class="head">
      <h3>Rig</h3>
      <SelectField v-model="where" class="where" label="For" :items="places" data-test="rig-where" />
    </div>
    <RigEditor :key="`${part.id}/${where}`" :part="part" :section-id="where || undefined" />
  </section>
</template>

<style scoped>
.rig {
  margin-top: 18px;
  border-top: 1px solid var(--rule);
  padding-top: 12px;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 20px;
  margin-bottom: 10px;
}
.where {
  max-width: 330px;
}
</style>
