<script setup lang="ts">
import { counted } from '#core/words/words'
import { PAPERS, type Paper } from '#core/engrave/sheet-blocks'
import { usePreferences } from '~/stores/preferences'
import { useSong } from '~/stores/song'
import type { useSheet } from './useSheet'

// What is on the sheet, for whom, on which paper, and as what it is given out.
const props = defineProps<{ sheet: ReturnType<typeof useSheet> }>()
const {
  charted,
  leftOut,
  toggle,
  form,
  reader,
  scope,
  scopes,
  pages,
  engraving,
  engrave,
  stop,
  problem,
  ready,
  making,
  pdf,
  picture,
  print,
} = props.sheet
const store = useSong()
const preferences = usePreferences()
const papers = (Object.keys(PAPERS) as Paper[]).map((paper) => ({ title: paper, value: paper }))
const FORMS = [
  { title: 'exact', value: 'exact' as const },
  { title: 'eased where there is one', value: 'eased' as const },
]
const READERS = [
  { title: 'for the teacher', value: 'teacher' as const },
  { title: 'for a student', value: 'student' as const },
]
const hasEased = computed(() => Object.values(store.song?.figures ?? {}).some((figure) => figure.eased))
</script>

<template>
  <section>
    <p v-if="charted.length === 0" class="quiet">Nothing is charted yet: the sheet shows the form only.</p>
    <div role="group" aria-label="Parts on the sheet" class="group">
      <ActButton
        v-for="part in charted"
        :key="part.id"
        :aria-pressed="!leftOut.has(part.id)"
        @click="toggle(part.id)"
      >
        {{ part.name }}
      </ActButton>
    </div>
    <SelectField v-model="scope" label="On the sheet" :items="scopes" data-test="sheet-scope" />
    <ToggleRow v-model="reader" label="For whom" :items="READERS" />
    <ToggleRow
      label="Paper"
      :items="papers"
      :model-value="preferences.values.paper"
      @update:model-value="preferences.set('paper', $event)"
    />
    <CheckField
      label="degrees beside chord names (C ♭VI)"
      :model-value="preferences.values.numerals"
      data-test="sheet-numerals"
      @update:model-value="preferences.set('numerals', $event)"
    />
    <ToggleRow v-if="hasEased" v-model="form" label="Form of the figures" :items="FORMS" />
    <div class="group">
      <ActButton kind="main" data-test="pdf" :disabled="making || !ready" @click="pdf">
        {{ making ? 'Making the file…' : 'Save as PDF' }}</ActButton><ActButton
        data-test="print"
        :disabled="!ready"
        @click="print"
        >Print</ActButton
      >
      <ActButton data-test="png" :disabled="making || !ready" @click="picture('png')">PNG</ActButton>
      <ActButton data-test="svg" :disabled="making || !ready" @click="picture('svg')">SVG</ActButton>
    </div>
    <p v-if="engraving !== undefined" class="quiet" role="status" data-test="engraving">
      engraving the sheet, {{ Math.round(100 * engraving) }} %
      <v-btn size="x-small" variant="outlined" @click="stop">Stop</v-btn>
    </p>
    <ActButton v-else-if="pages.length === 0" data-test="engrave" @click="engrave"
      >Engrave the sheet</ActButton
    >
    <p v-else class="quiet mono" role="status">
      {{ counted(pages.length, 'page') }}
    </p>
    <p v-if="problem" class="attention" role="alert">{{ problem }}</p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
}
.group {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
p {
  font-size: 14px;
}
</style>
