<script setup lang="ts">
import type { Choice, Slip } from '#core/call/said/build'

// What was assumed of a call: each with what was taken, and the next reading one click or key away.
const props = defineProps<{
  choices: readonly Choice[]
  slips: readonly Slip[]
  text: string
  asks: boolean
}>()
const emit = defineEmits<{ turn: [id: string] }>()
/** More than these would bury the line: the others follow when these are settled. */
const MOST_SHOWN = 4
const shown = computed(() => props.choices.slice(0, MOST_SHOWN))
const rivals = (choice: Choice): string =>
  choice.options
    .filter((_, index) => index !== choice.taken)
    .map((option) => option.words)
    .join(', ')
const said = (choice: Choice): string => {
  const words = props.text.slice(choice.at, choice.end).trim()
  return words.length > 28 ? `${words.slice(0, 27)}…` : words
}
</script>

<template>
  <div v-if="shown.length || slips.length" class="assumed" data-test="call-assumed">
    <ActButton
      v-for="(choice, index) in shown"
      :key="choice.id"
      class="small"
      :title="`or ${rivals(choice)}`"
      data-test="call-choice"
      @mousedown.prevent
      @click="emit('turn', choice.id)"
    >
      <span class="mono said">{{ said(choice) }}</span>&nbsp;<b>{{ choice.options[choice.taken]!.words }}</b
      ><span class="quiet">&nbsp;or {{ rivals(choice) }}</span
      ><kbd>Alt {{ index + 1 }}</kbd>
    </ActButton>
    <p v-for="slip in slips" :key="slip.message" class="attention slip" data-test="call-slip">
      {{ slip.message }}
    </p>
    <p v-if="asks" class="slip" data-test="call-asks"><b>Enter once more</b> puts it in as it stands.</p>
  </div>
</template>

<style scoped>
.assumed {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  padding-top: 4px;
  font-size: 13.5px;
}
.small {
  font-size: 12.5px;
  padding: 1px 8px;
  border-style: dashed;
}
.said {
  font-size: 12px;
}
.slip {
  margin: 0;
}
kbd {
  margin-left: 7px;
  font-size: 10.5px;
}
</style>
