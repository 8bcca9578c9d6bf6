<script setup lang="ts">
import { readFormCall, type FormReading } from '#core/form-call/read-form-call'
import { randomId } from '#platform/files'
import { useSong } from '~/stores/song'

// A call over the form: said in a sentence before it is entered, entered as one step.
const props = defineProps<{ sectionId: string | undefined; partId?: string | undefined; hint: string }>()
const store = useSong()
const text = ref('')
const asked = ref(false)
const field = ref<{ focus: () => void }>()
const reading = computed<FormReading | undefined>(() => {
  const { song } = store
  if (!song || !text.value.trim()) return undefined
  const [first] = store.parts
  return readFormCall(text.value, {
    song,
    sectionId: props.sectionId,
    partId: props.partId,
    newId: randomId,
    sounding: (symbol) => {
      const part = (props.partId && song.parts[props.partId]) || first
      return part ? store.soundingChord(part, symbol) : symbol
    },
  })
})
watch(text, () => {
  asked.value = false
})
function enter(): void {
  const now = reading.value
  if (!now) return
  if (!now.ok) {
    asked.value = true
    return
  }
  if (store.run('enterFormCall', { what: `call “${text.value.trim().slice(0, 60)}”`, ...now.change }))
    text.value = ''
}
/** What was typed goes first; then the keys are the page's again. */
function escape(event: KeyboardEvent): void {
  if (text.value) text.value = ''
  else (event.target as HTMLElement | null)?.blur()
}
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div class="form-call" data-test="form-call">
    <v-text-field
      ref="field"
      v-model="text"
      class="mono"
      aria-label="Call line: say what a section, a part or its chords do"
      :placeholder="`say it: ${hint}`"
      hide-details
      density="compact"
      spellcheck="false"
      autocomplete="off"
      aria-describedby="form-call-says"
      data-test="form-call-text"
      @keydown.enter.prevent="enter"
      @keydown.esc.stop="escape"
    />
    <p id="form-call-says" class="says" role="status">
      <template v-if="reading?.ok"
        ><b>Enter:</b> {{ reading.says
        }}<span v-for="one in reading.assumed" :key="one" class="guess">{{ one }}</span></template
      >
      <span v-else-if="reading && asked" class="attention">{{ reading.error.message }}</span>
      <span v-else-if="reading" class="quiet">{{ reading.error.message }}</span>
    </p>
  </div>
</template>

<style scoped>
.form-call {
  display: grid;
  grid-template-columns: minmax(260px, 540px) minmax(0, 1fr);
  gap: 4px 14px;
  align-items: center;
  padding: 4px 0 6px;
}
.says {
  margin: 0;
  min-height: 20px;
  font-size: 13.5px;
}
.guess {
  border-bottom: 2px dotted var(--attention);
  margin-left: 10px;
}
@media (max-width: 900px) {
  .form-call {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
