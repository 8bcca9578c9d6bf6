<script setup lang="ts">
import { isEmptyFigure } from '#core/document/figure-content'
import { lengthInBars, type Stretch } from '#core/timeline/cells'
import { startsBeforeWords } from '#core/timeline/landmarks'
import { sectionTicks } from '#core/document/form'
import type { Section } from '#core/document/schema'
import { useSong } from '~/stores/song'

// One stretch of a cell: a figure with its passes, a rest, or what is not charted yet.
const props = defineProps<{ stretch: Stretch; section: Section; chosen: boolean; sounding: boolean }>()
const store = useSong()
/** A figure in which nothing is written is not charted: it is hatched as what is open. */
const isEmpty = computed(
  () =>
    props.stretch.kind === 'figure' &&
    store.song !== undefined &&
    isEmptyFigure(store.song, props.stretch.figure, props.stretch.placement.form),
)
const length = computed(() =>
  props.stretch.lengthTicks < sectionTicks(props.section)
    ? `, ${lengthInBars(props.section, props.stretch.lengthTicks)}`
    : '',
)
/** What makes this placing differ from the figure itself. */
const differs = computed(() => {
  if (props.stretch.kind !== 'figure') return ''
  const { shiftFrets, form } = props.stretch.placement
  const words = [
    store.song ? startsBeforeWords(store.song, props.section, props.stretch.startTicks) : '',
    shiftFrets ? `${shiftFrets > 0 ? '+' : ''}${shiftFrets} frets` : '',
    form === 'eased' ? 'eased' : '',
  ]
  return words.filter(Boolean).join(', ')
})
</script>

<template>
  <div class="stretch" :class="[stretch.kind, { on: chosen, sounding, empty: isEmpty }]">
    <template v-if="stretch.kind === 'figure'">
      <b>
        {{ stretch.figure.name
        }}<template v-if="stretch.placement.passes > 1"> ×{{ stretch.placement.passes }}</template>
      </b>
      <span v-for="other in stretch.placement.passFigures ?? []" :key="other.pass" class="evidence">
        {{ other.pass }}: {{ store.song?.figures[other.figureId]?.name }}
      </span>
      <span v-if="isEmpty" class="evidence">nothing written yet</span>
      <span v-if="differs" class="evidence">{{ differs }}</span>
    </template>
    <template v-else-if="stretch.kind === 'rests'">
      <i class="thin" aria-hidden="true" />rests{{ length }}
    </template>
    <template v-else>not charted{{ length }}</template>
    <span v-if="stretch.kind !== 'open'" class="handle" data-handle aria-hidden="true" />
  </div>
</template>

<style scoped>
.stretch {
  padding: 3px 9px;
  min-height: 28px;
  display: flex;
  gap: 0 9px;
  align-items: baseline;
  flex-wrap: wrap;
  line-height: 1.3;
  border: 1px solid transparent;
}
.stretch + .stretch {
  margin-top: 3px;
}
.stretch.figure {
  background: var(--paper);
  border-color: var(--deep);
  cursor: grab;
}
.stretch.dragged {
  position: relative;
  z-index: 5;
  cursor: grabbing;
  box-shadow: 0 4px 14px rgb(0 0 0 / 0.25);
}
.stretch.figure.on {
  border-color: var(--action);
  box-shadow: inset 3px 0 0 var(--action);
}
.stretch.figure .evidence {
  font-size: 13px;
}
.stretch.sounding {
  border-color: var(--attention);
  box-shadow: inset 0 -3px 0 var(--attention);
}
.stretch.open {
  color: var(--attention);
  background-image: repeating-linear-gradient(-45deg, transparent 0 6px, var(--rule) 6px 7px);
  text-shadow:
    0 0 3px var(--page),
    0 0 3px var(--page),
    0 0 3px var(--page),
    0 0 3px var(--page);
}
.stretch.empty {
  background: repeating-linear-gradient(-45deg, transparent 0 6px, var(--rule) 6px 7px);
}
tr.chosen .stretch.open {
  text-shadow:
    0 0 3px var(--selection),
    0 0 3px var(--selection);
}
.handle {
  display: none;
}
@media (pointer: coarse) {
  .handle {
    display: block;
    margin-left: auto;
    width: 18px;
    height: 22px;
    background: radial-gradient(circle, var(--deep) 1.6px, transparent 2px) 0 0 / 8px 7px;
    touch-action: none;
  }
}
.thin {
  width: 36px;
  border-top: 2px solid var(--deep);
  align-self: center;
}
</style>
