<script setup lang="ts">
import type { Figure, Placement } from '#core/document/schema'
import { useSong } from '~/stores/song'

// Where the figure is placed, and what each pass of it plays there.
type Placed = Extract<Placement, { kind: 'figure' }>
const props = defineProps<{ figure: Figure }>()
const store = useSong()
const siblings = computed(() =>
  Object.values(store.song?.figures ?? {}).filter(
    (other) => other.partId === props.figure.partId && other.id !== props.figure.id,
  ),
)
const ownPlacements = computed(() =>
  Object.values(store.song?.placements ?? {})
    .flatMap((placement) =>
      placement.kind === 'figure' &&
      (placement.figureId === props.figure.id ||
        placement.passFigures?.some((entry) => entry.figureId === props.figure.id))
        ? [placement]
        : [],
    )
    .sort(
      (a, b) => store.song!.sectionOrder.indexOf(a.sectionId) - store.song!.sectionOrder.indexOf(b.sectionId),
    ),
)

/** Figures that can stand in for a pass: as long as the placed one. */
const fits = (placement: Placed): Figure[] =>
  siblings.value
    .concat(props.figure)
    .filter((other) => other.lengthTicks === store.song!.figures[placement.figureId]!.lengthTicks)
function setPass(placement: Placed, pass: number, figureId: string): void {
  const rest = (placement.passFigures ?? []).filter((entry) => entry.pass !== pass)
  const next =
    figureId === placement.figureId ? rest : [...rest, { pass, figureId }].sort((a, b) => a.pass - b.pass)
  const { passFigures: _old, ...plain } = placement
  store.run('setPlacement', { placement: next.length ? { ...plain, passFigures: next } : plain })
}
const passFigure = (placement: Placed, pass: number): string =>
  placement.passFigures?.find((entry) => entry.pass === pass)?.figureId ?? placement.figureId

const sectionName = (id: string): string => store.song?.sections[id]?.name ?? ''
</script>

<template>
  <section>
    <h2 class="small-head">Passes</h2>
    <div v-for="placement in ownPlacements" :key="placement.id" class="other place">
      <b>{{ sectionName(placement.sectionId) }}</b><template
        v-if="placement.passes > 1 && fits(placement).length > 1"
        ><SelectField
          v-for="pass in Math.min(placement.passes, 12)"
          :key="pass"
          inline
          class="pass"
          :label="`Pass ${pass} in ${sectionName(placement.sectionId)}`"
          :lead="String(pass)"
          :items="fits(placement).map((other) => ({ title: other.name, value: other.id }))"
          :model-value="passFigure(placement, pass)"
          @update:model-value="setPass(placement, pass, $event)" /></template
      ><span v-else class="quiet">
        {{ placement.passes > 1 ? `×${placement.passes}` : ''
        }}{{
          placement.shiftFrets
            ? ` ${placement.shiftFrets > 0 ? '+' : '−'}${Math.abs(placement.shiftFrets)} frets`
            : ''
        }}</span
      >
    </div>
    <p v-if="!ownPlacements.length" class="other quiet">
      Not placed yet.
      <NuxtLink class="link" :to="`/song/${store.song?.id}/map`">Place it in the map</NuxtLink>
    </p>
  </section>
</template>

<style scoped>
.place {
  margin-bottom: 5px;
}
.pass {
  margin-bottom: 4px;
  padding-left: 8px;
}
</style>
