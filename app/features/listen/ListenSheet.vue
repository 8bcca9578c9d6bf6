<script setup lang="ts">
import { listenPoint, type ListenLine } from '#core/engrave/listen-lines'
import { useEachFrame } from '~/composables/eachFrame'
import { useOutline } from '~/composables/outline'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'
import { useTransport } from '~/stores/transport'
import type { BeatWork } from './beatWork'
import type { ListenSheetWork } from './listenSheet'

// The song on its ruled lines: loop, chosen bar and beat, and the playhead over them.
const props = defineProps<{ view: ListenSheetWork; beats: BeatWork }>()
const emit = defineEmits<{ edit: [sectionId: string] }>()
const store = useSong()
const transport = useTransport()
const hearing = useHearing()
const outline = useOutline()
const { layout, width, hovered, drag, chosenBox, chosenBar, chosenBeat, chosenChord, laidOut } = props.view

const span = computed(() => {
  if (drag.value?.kind !== 'loop' || !drag.value.moved) return transport.loop
  const { startSeconds, nowSeconds } = drag.value
  return { startSeconds: Math.min(startSeconds, nowSeconds), endSeconds: Math.max(startSeconds, nowSeconds) }
})
const loopBoxes = computed(() => {
  if (!span.value || !layout.value) return []
  const { startSeconds, endSeconds } = span.value
  return layout.value.lines.flatMap((line) =>
    line.bars
      .filter((bar) => bar.endSeconds > startSeconds + 1e-4 && bar.startSeconds < endSeconds - 1e-4)
      .map((bar) => {
        const share = (seconds: number): number =>
          Math.max(0, Math.min(1, (seconds - bar.startSeconds) / (bar.endSeconds - bar.startSeconds)))
        const [from, to] = [share(startSeconds), share(endSeconds)]
        return { left: bar.x + bar.width * from, width: bar.width * (to - from), top: line.top }
      }),
  )
})
/** Where the beginning of a section is being dragged to. */
const edgeMark = computed(() => {
  const moving = drag.value?.kind === 'edge' && drag.value.moved
  return moving && layout.value ? listenPoint(layout.value, drag.value!.nowSeconds) : undefined
})
const beatSeconds = computed(() => {
  if (drag.value?.kind === 'beat' && drag.value.moved) return drag.value.nowSeconds
  return chosenBeat.value === undefined ? undefined : props.beats.flat.value[chosenBeat.value]?.seconds
})
const beatMark = computed(() =>
  beatSeconds.value !== undefined && layout.value
    ? listenPoint(layout.value, beatSeconds.value + 1e-6)
    : undefined,
)
/** A heading of the document opens its dialog; one that is only heard shows its first bar. */
function openHeading(line: ListenLine): void {
  if (line.heading?.suggested && !store.song!.sections[line.sectionId])
    chosenBar.value = props.view.barAt(line.bars[0]!.startSeconds + 0.001)
  else emit('edit', line.sectionId)
}

// The playhead is moved by hand, not by the framework: sixty times a second only one transform changes.
const playhead = ref<HTMLElement>()
let shownLine = -1
useEachFrame(() => {
  const element = playhead.value
  if (!element || !layout.value) return
  const point = listenPoint(layout.value, transport.position())
  element.style.opacity = point ? '1' : '0'
  if (!point) return
  element.style.transform = `translate(${point.x}px, ${point.top}px)`
  if (transport.playing && point.top !== shownLine) {
    shownLine = point.top
    element.scrollIntoView({ block: 'nearest' })
  }
})
</script>

<template>
  <div class="sheet" :style="{ height: layout ? `${layout.height}px` : '60vh' }">
    <template v-if="layout">
      <div
        v-for="(box, index) in loopBoxes"
        :key="index"
        class="loop"
        :style="{ transform: `translate(${box.left}px, ${box.top}px)`, width: `${box.width}px` }"
      />
      <ListenRuledLine
        v-for="line in layout.lines"
        :key="`${line.sectionId}-${line.bars[0]!.barIndex}`"
        :line="line"
        :outline="outline"
        :left="layout.left"
        :width="width"
        :hovered-bar="hovered?.barIndex"
        :chosen-tick="chosenChord"
        :movable="laidOut && store.onMainSource"
        @edit="openHeading(line)"
      />
      <div
        v-if="chosenBox"
        class="chosen-bar"
        :style="{
          transform: `translate(${chosenBox.bar.x}px, ${chosenBox.ruled.top}px)`,
          width: `${chosenBox.bar.width}px`,
        }"
      />
      <div
        v-if="beatMark"
        class="beat-mark"
        :style="{ transform: `translate(${beatMark.x}px, ${beatMark.top}px)` }"
      />
      <div
        v-if="edgeMark"
        class="edge"
        :style="{ transform: `translate(${edgeMark.x}px, ${edgeMark.top}px)` }"
      />
      <div ref="playhead" class="playhead" data-test="playhead" />
    </template>
    <div v-else-if="!laidOut" class="empty">
      <h2>The recording is not laid out in bars yet</h2>
      <p>
        {{
          hearing.progress
            ? 'It is being listened to: bars appear here as soon as the pulse is found.'
            : 'Let it be listened to, or tap along with T while it plays.'
        }}
        Press <kbd>Space</kbd> to hear it.
      </p>
    </div>
  </div>
</template>

<style scoped>
.sheet {
  position: relative;
  margin-top: 8px;
  touch-action: pan-y;
  user-select: none;
}
.loop {
  position: absolute;
  height: 78px;
  background: var(--selection);
  top: 0;
  left: 0;
}
.chosen-bar {
  position: absolute;
  left: 0;
  top: 0;
  height: 76px;
  border: 1.5px solid var(--action);
  border-radius: 3px;
  pointer-events: none;
}
.playhead {
  position: absolute;
  left: -1px;
  top: -2px;
  width: 2px;
  height: 58px;
  background: var(--attention);
  pointer-events: none;
  will-change: transform;
  z-index: 3;
  scroll-margin-block: 90px 120px;
}
.edge {
  position: absolute;
  left: -2px;
  top: 0;
  width: 4px;
  height: 62px;
  background: var(--action);
  pointer-events: none;
}
.beat-mark {
  position: absolute;
  left: -5px;
  top: 44px;
  width: 10px;
  height: 12px;
  border: 2px solid var(--action);
  border-radius: 3px;
  pointer-events: none;
}
.empty {
  padding: 60px 0 0 20px;
  max-width: 560px;
  display: grid;
  gap: 10px;
}
</style>
