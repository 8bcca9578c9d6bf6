<script setup lang="ts">
import { WIDTH } from './scales'

/** A small picture of what was measured, and the words that say what it shows. */
defineProps<{ words: string; height: number }>()
</script>

<template>
  <figure class="why">
    <svg :viewBox="`0 0 ${WIDTH} ${height}`" :width="WIDTH" role="img" :aria-label="words">
      <slot />
    </svg>
    <figcaption class="quiet">{{ words }}</figcaption>
  </figure>
</template>

<style scoped>
.why {
  margin: 0;
}
.why svg {
  display: block;
  max-width: 100%;
  height: auto;
}
figcaption {
  font-size: 13px;
  line-height: 1.3;
  margin-top: 4px;
}
</style>
