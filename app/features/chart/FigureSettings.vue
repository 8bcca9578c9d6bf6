<script setup lang="ts">
import { z } from 'zod'
import { MOST_FIGURE_BARS } from '#core/time/meter'
import { cutToLength, repeated } from '#core/document/figure-edit'
import { storeContent } from '#core/document/figure-layers'
import type { Figure } from '#core/document/schema'
import { barTicks, meterName, SUBDIVISIONS, USUAL_METERS, type Subdivision } from '#core/time/meter'
import { randomId } from '#platform/files'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { Bench } from './benchKeys'

// How long the figure is, how it is counted, and what is heard of it.
export type HeardScope = 'figure' | 'part' | 'song'
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ hear: [scope: HeardScope] }>()
const store = useSong()
const transport = useTransport()
const preferences = usePreferences()
const METERS = USUAL_METERS.map(meterName)
const COUNTS: string[] = [...SUBDIVISIONS, 'free time']
const SCOPES = [
  { title: 'figure', value: 'figure', test: 'hear-figure', hint: 'This figure alone, looped (F)' },
  { title: 'part', value: 'part', hint: 'This part alone (Q)' },
  { title: 'song', value: 'song', hint: 'The whole chart from here (Shift Space)' },
]
const SWINGS = [0.5, 0.55, 0.6, 0.64, 0.667, 0.7]
const swings = computed(() =>
  [...new Set([...SWINGS, props.figure.feel.swing.ratio])].map((ratio) => ({
    title: ratio === 0.5 ? 'straight' : `${Math.round(ratio * 100)} %`,
    value: ratio,
  })),
)
/** What a figure’s length may be, in bars. */
const barsSchema = z.number().min(0.25).max(MOST_FIGURE_BARS)
function setLength(bars: number): void {
  const lengthTicks = Math.round(bars * barTicks(props.figure.meter))
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: `length ${bars} bars`,
    set: {
      lengthTicks,
      ...storeContent(
        store.song!,
        { ...props.figure, lengthTicks },
        cutToLength(
          props.figure.eased && props.bench.eased.value ? props.figure.content : props.bench.content.value,
          lengthTicks,
        ),
      ),
      ...(props.figure.eased ? { eased: cutToLength(props.figure.eased, lengthTicks) } : {}),
    },
  })
}
function setMeter(value: string): void {
  const [beats, unit] = value.split('/').map(Number) as [number, 4 | 8]
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: `meter ${value}`,
    set: { meter: { beats, unit } },
  })
}
const setFeel = (set: Partial<Figure['feel']>): void => {
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: 'subdivision and swing',
    set: { feel: { ...props.figure.feel, ...set } },
  })
}
/** What is counted, or that nothing is. */
function setCount(value: string): void {
  const freeTime = value === 'free time'
  store.run('changeFigure', {
    figureId: props.figure.id,
    what: `subdivision ${value}`,
    set: {
      freeTime,
      ...(freeTime ? {} : { feel: { ...props.figure.feel, subdivision: value as Subdivision } }),
    },
  })
}
function repeat(): void {
  const shape = props.figure
  store.run('changeFigure', {
    figureId: shape.id,
    what: 'repeat',
    set: {
      lengthTicks: shape.lengthTicks * 2,
      ...storeContent(
        store.song!,
        { ...shape, lengthTicks: shape.lengthTicks * 2 },
        repeated(props.bench.content.value, shape.lengthTicks, 2, randomId),
      ),
    },
  })
}
</script>

<template>
  <div class="settings">
    <NumberField
      label="bars"
      class="bars"
      :schema="barsSchema"
      :step="0.25"
      :model-value="figure.lengthTicks / barTicks(figure.meter)"
      data-test="bars"
      @take="setLength"
    />
    <SelectField
      label="meter"
      :items="METERS"
      :model-value="meterName({ ...figure.meter, grouping: undefined })"
      @update:model-value="setMeter"
    />
    <SelectField
      label="subdivision"
      class="count"
      :items="COUNTS"
      :model-value="figure.freeTime ? 'free time' : figure.feel.subdivision"
      data-test="subdivision"
      @update:model-value="setCount"
    />
    <SelectField
      label="swing"
      :items="swings"
      :model-value="figure.feel.swing.ratio"
      @update:model-value="(ratio) => setFeel({ swing: { ...figure.feel.swing, ratio } })"
    />
    <ActButton title="Twice as long, played twice" @click="repeat">Repeat</ActButton>
    <span class="space" />
    <v-checkbox-btn
      :model-value="preferences.values.goAlong"
      label="go along"
      class="along"
      title="The bench goes along with the music from figure to figure of this part; off, it stays here"
      data-test="go-along"
      @update:model-value="preferences.set('goAlong', Boolean($event))"
    />
    <ToggleRow
      label="What is heard"
      :items="SCOPES"
      :model-value="transport.scope.kind"
      @update:model-value="emit('hear', $event as HeardScope)"
    />
  </div>
</template>

<style scoped>
.settings {
  display: flex;
  gap: 12px;
  align-items: center;
  margin: 8px 0 10px;
  font-size: 14.5px;
  flex-wrap: wrap;
}
.settings .number-field {
  flex: 0 0 84px;
}
.along {
  flex: none;
}
.space {
  flex: 1;
}
.settings .select-field {
  flex: 0 0 116px;
}
.settings .select-field.count {
  flex-basis: 124px;
}
</style>
