<script setup lang="ts">
import type { Primitive, Role } from '#core/engrave/primitives'

// Paints primitives as SVG. It decides nothing: places come from the core, colours from the roles of the
// theme.
const props = defineProps<{
  primitives: readonly Primitive[]
  width: number
  height: number
  label: string
  unit?: string
  fixed?: boolean
}>()
const color = (role: Role | undefined): string => (role ? `var(--${role})` : 'none')
const FACES = { text: 'var(--face-text)', mono: 'var(--face-mono)', heading: 'var(--face-heading)' }
const pairs = (points: readonly number[]): string =>
  points.map((value) => Math.round(value * 100) / 100).join(' ')
const size = computed(() => ({
  width: props.unit ? `${props.width}${props.unit}` : props.width,
  height: props.unit ? `${props.height}${props.unit}` : props.height,
}))
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${height}`"
    :width="size.width"
    :height="size.height"
    role="img"
    :aria-label="label"
    class="drawing"
  >
    <template v-for="(shape, index) in primitives" :key="index">
      <line
        v-if="shape.kind === 'line'"
        :x1="shape.x1"
        :y1="shape.y1"
        :x2="shape.x2"
        :y2="shape.y2"
        :stroke="color(shape.role)"
        :stroke-width="shape.width"
        :stroke-dasharray="shape.dashed ? `${shape.width * 3} ${shape.width * 3}` : undefined"
      />
      <rect
        v-else-if="shape.kind === 'rect'"
        :x="shape.x"
        :y="shape.y"
        :width="Math.max(0, shape.width)"
        :height="shape.height"
        :rx="shape.radius ?? 0"
        :fill="color(shape.fill)"
        :stroke="color(shape.stroke)"
      />
      <circle
        v-else-if="shape.kind === 'circle'"
        :cx="shape.x"
        :cy="shape.y"
        :r="shape.radius"
        :fill="color(shape.fill)"
        :stroke="color(shape.stroke)"
        :stroke-width="shape.stroke ? shape.radius * 0.25 : undefined"
      />
      <path
        v-else-if="shape.kind === 'curve'"
        :d="`M${shape.x1} ${shape.y1}Q${shape.cx} ${shape.cy} ${shape.x2} ${shape.y2}`"
        fill="none"
        :stroke="color(shape.role)"
        :stroke-width="shape.width"
      />
      <polygon v-else-if="shape.kind === 'polygon'" :points="pairs(shape.points)" :fill="color(shape.fill)" />
      <text
        v-else
        :x="shape.x"
        :y="shape.y"
        :font-size="shape.size"
        :fill="color(shape.role)"
        :text-anchor="shape.anchor"
        :font-family="FACES[shape.face]"
        :font-weight="shape.bold || shape.face === 'heading' ? 700 : 400"
        :class="{ halo: shape.halo }"
      >
        {{ shape.text }}
      </text>
    </template>
  </svg>
</template>

<style scoped>
.drawing {
  display: block;
}
.halo {
  paint-order: stroke;
  stroke: var(--halo, var(--page));
  stroke-width: 0.34em;
  stroke-linejoin: round;
}
</style>
