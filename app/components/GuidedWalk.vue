<script setup lang="ts">
import { useWalk, WALK } from '~/stores/walk'

// The card of the walk, and a frame round what it is about.
const walk = useWalk()
const frame = ref<{ left: number; top: number; width: number; height: number }>()
const card = ref<HTMLElement>()
let looking: ReturnType<typeof setInterval> | undefined
const MARGIN = 4

/** The target comes when its page is there, and may still move: it is looked for while the card stands. */
function look(): void {
  const selector = walk.step?.target
  const box = selector ? document.querySelector(selector)?.getBoundingClientRect() : undefined
  // What is longer than its page is framed as far as the page is seen.
  const stage = document.querySelector('main')?.getBoundingClientRect()
  const inStage =
    selector !== undefined && document.querySelector(`main ${selector.replace(/^main /, '')}`) !== null
  const bottom = inStage && stage ? stage.bottom : window.innerHeight
  const width = Math.min(window.innerWidth - 2 * MARGIN, (box?.width ?? 0) + 2 * MARGIN)
  frame.value = box && {
    left: Math.max(MARGIN, box.left - MARGIN),
    top: Math.max(MARGIN, box.top - MARGIN),
    width,
    height: Math.min(bottom - box.top, box.height + 2 * MARGIN),
  }
}
watch(
  () => walk.index,
  async (index, before) => {
    clearInterval(looking)
    frame.value = undefined
    if (index < 0) return
    looking = setInterval(look, 250)
    await nextTick()
    if (before < 0) card.value?.focus()
  },
)
onBeforeUnmount(() => clearInterval(looking))
</script>

<template>
  <div v-if="walk.step" class="walk">
    <div
      v-if="frame"
      class="frame"
      :style="{
        transform: `translate(${frame.left}px, ${frame.top}px)`,
        width: `${frame.width}px`,
        height: `${frame.height}px`,
      }"
    />
    <section
      ref="card"
      class="card"
      tabindex="-1"
      role="dialog"
      aria-labelledby="walk-title"
      data-test="walk"
      @keydown.escape="walk.stop()"
    >
      <p class="quiet mono count">{{ walk.index + 1 }} of {{ WALK.length }}</p>
      <h2 id="walk-title">{{ walk.step.title }}</h2>
      <p aria-live="polite">{{ walk.step.text }}</p>
      <div class="acts">
        <ActButton kind="main" data-test="walk-next" @click="walk.next()">
          {{ walk.index + 1 < WALK.length ? 'Next' : 'Done' }}
        </ActButton>
        <ActButton v-if="walk.index > 0" @click="walk.back()">Back</ActButton>
        <ActButton kind="link" data-test="walk-skip" @click="walk.stop()">Skip the rest</ActButton>
      </div>
    </section>
  </div>
</template>

<style scoped>
.frame {
  position: fixed;
  left: 0;
  top: 0;
  border: 3px solid var(--action);
  border-radius: 6px;
  pointer-events: none;
  z-index: 1500;
  transition: transform 0.2s;
}
@media (prefers-reduced-motion: reduce) {
  .frame {
    transition: none;
  }
}
.card {
  position: fixed;
  right: 26px;
  bottom: 92px;
  width: min(380px, calc(100vw - 40px));
  background: var(--paper);
  border: 1.5px solid var(--deep);
  border-radius: 6px;
  padding: 16px 20px;
  display: grid;
  gap: 8px;
  z-index: 1600;
  box-shadow: 0 6px 24px rgb(0 0 0 / 0.22);
}
.count {
  font-size: 13px;
}
.acts {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-top: 4px;
}
</style>
