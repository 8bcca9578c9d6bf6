<script setup lang="ts">
import { barTicks } from '#core/time/meter'
import type { Figure } from '#core/document/schema'
import type { Bench } from '~/features/chart/benchKeys'
import { sayFigure } from '~/session/say-figure'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'

// The figure said back in the words of the call line, line by line: to read aloud while teaching, or to
// change and enter again.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ say: [words: string, startTicks: number] }>()
const store = useSong()
const preferences = usePreferences()
const WORDS = [
  { title: 'as said', value: 'said' as const, test: 'say-said' },
  { title: 'short', value: 'short' as const, test: 'say-short' },
]
const lines = computed(() => {
  const part = props.bench.part.value
  if (!store.song || !part) return []
  const { content, step } = props.bench
  const said = { figure: props.figure, part, content: content.value, stepTicks: step.value }
  return sayFigure(store.song, said, preferences.values)
})
const HEADS = { grips: 'Grips', muting: 'Muting', hand: 'Hand', notes: 'Notes' }
const barOf = (tick: number): number => Math.floor(tick / barTicks(props.figure.meter)) + 1
const copied = ref(false)
async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(lines.value.map((line) => line.text).join('\n'))
    copied.value = true
  } catch {
    store.notice = {
      text: 'The browser does not let this page copy: select the lines and copy them.',
      kind: 'refusal',
    }
  }
}
watch(lines, () => {
  copied.value = false
})
</script>

<template>
  <div class="panel">
    <ToggleRow
      class="words"
      label="Words of the call-outs"
      :items="WORDS"
      :model-value="preferences.values.callWords"
      @update:model-value="(words) => preferences.set('callWords', words)"
    />
    <p v-if="!lines.length" class="other quiet">Nothing to say yet: this figure is empty.</p>
    <section
      v-for="layer in (['grips', 'muting', 'hand', 'notes'] as const).filter((one) =>
        lines.some((line) => line.layer === one),
      )"
      :key="layer"
    >
      <h2 class="small-head">{{ HEADS[layer] }}</h2>
      <ol class="said" data-test="said">
        <li
          v-for="line in lines.filter((one) => one.layer === layer)"
          :key="`${line.startTicks}${line.text}`"
        >
          <button
            class="plain"
            :title="`Bar ${barOf(line.startTicks)}: take it into the call line`"
            @click="emit('say', line.text, line.startTicks)"
          >
            <span class="bar quiet mono">{{ barOf(line.startTicks) }}</span>{{ line.text }}
          </button>
        </li>
      </ol>
    </section>
    <ActButton v-if="lines.length" class="small" @click="copy">
      {{ copied ? 'Copied' : 'Copy all' }}
    </ActButton>
  </div>
</template>

<style scoped>
.said {
  list-style: none;
  margin: 2px 0 0;
  padding: 0;
  font-size: 14px;
  line-height: 1.4;
}
.said li {
  border-bottom: 1px solid var(--rule);
  padding: 3px 0;
}
.said button {
  display: block;
  width: 100%;
}
.said button:hover {
  background: var(--selection);
}
.bar {
  display: inline-block;
  min-width: 20px;
}
</style>
