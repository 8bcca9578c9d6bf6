<script setup lang="ts">
import { figureOfPass, figuresForPass, placedInstead, withPassFigure } from '#core/document/pass-figures'
import type { Figure, Placement } from '#core/document/schema'
import { useSong } from '~/stores/song'

// Where the figure is placed, and what each pass of it plays there.
type Placed = Extract<Placement, { kind: 'figure' }>
const props = defineProps<{ figure: Figure }>()
const store = useSong()
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

const fits = (placement: Placed): Figure[] => (store.song ? figuresForPass(store.song, placement) : [])
const setPass = (placement: Placed, pass: number, figureId: string): void =>
  void store.run('setPlacement', { placement: withPassFigure(placement, pass, figureId) })

/** Where the figure this one varies is placed: there it can be played instead, as often. */
const basePlacements = computed(() =>
  Object.values(store.song?.placements ?? {}).flatMap((placement) =>
    placement.kind === 'figure' && placement.figureId === props.figure.variationOf?.figureId
      ? [placement]
      : [],
  ),
)
const baseName = computed(() => store.song?.figures[props.figure.variationOf?.figureId ?? '']?.name ?? '')
const placeInstead = (placement: Placed): void =>
  void store.run('setPlacement', { placement: placedInstead(placement, props.figure.id) })

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
          :model-value="figureOfPass(placement, pass)"
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
    <ul v-if="basePlacements.length" class="other">
      <li v-for="placement in basePlacements" :key="placement.id">
        <ActButton class="small" data-test="place-instead" @click="placeInstead(placement)">
          Place it in {{ sectionName(placement.sectionId)
          }}{{ placement.passes > 1 ? `, all ${placement.passes} passes` : '' }}
        </ActButton>
        <span class="quiet"> instead of “{{ baseName }}”</span>
      </li>
    </ul>
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
