<script setup lang="ts">
import { CALL_EXAMPLES } from '#core/call/examples'
import { WORDS } from '#core/call/vocabulary'

// What can be said, by example, searched as it is typed; a line of it goes into the call line.
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ take: [words: string] }>()
const wanted = ref('')
const fits = (...texts: readonly (string | undefined)[]): boolean =>
  wanted.value
    .toLowerCase()
    .split(/\s+/)
    .every((word) => texts.some((text) => text?.toLowerCase().includes(word)))
const groups = computed(() =>
  CALL_EXAMPLES.map((group) => ({
    ...group,
    examples: group.examples.filter((example) => fits(example.say, example.means, group.title)),
  })).filter((group) => group.examples.length),
)
const words = computed(() => WORDS.filter((word) => fits(word.word, word.short, word.help)))
function take(say: string): void {
  open.value = false
  emit('take', say)
}
</script>

<template>
  <v-dialog v-model="open" aria-label="What can be said" max-width="760" scrollable>
    <v-card class="card">
      <h2>What can be said</h2>
      <v-text-field
        v-model="wanted"
        aria-label="Search what can be said"
        placeholder="Search: bend, two bars, same thing …"
        autofocus
        hide-details
        data-test="call-words-search"
      />
      <div class="lists">
        <p v-if="!groups.length && !words.length" class="quiet">
          Nothing is said with these words. Search for what the hand does: bend, slide, mute, strum.
        </p>
        <section v-for="group in groups" :key="group.title">
          <h3 class="small-head">{{ group.title }}</h3>
          <ul>
            <li v-for="example in group.examples" :key="example.say">
              <ActButton kind="plain" class="say mono" data-test="call-example" @click="take(example.say)">{{
                example.say
              }}</ActButton>
              <span class="quiet">{{ example.means }}</span>
            </li>
          </ul>
        </section>
        <section v-if="words.length">
          <h3 class="small-head">Words, with their short forms</h3>
          <dl>
            <template v-for="word in words" :key="word.word"
              ><dt class="mono">
                {{ word.word }}<span v-if="word.short" class="quiet">&nbsp;{{ word.short }}</span>
              </dt>
              <dd>{{ word.help }}</dd></template
            >
          </dl>
        </section>
      </div>
      <div class="acts"><ActButton @click="open = false">Close</ActButton></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.card {
  padding: 18px 22px;
  display: grid;
  gap: 12px;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
}
.lists {
  overflow: auto;
  min-height: 120px;
  display: grid;
  gap: 14px;
  align-content: start;
}
ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  border-bottom: 1px solid var(--rule);
  padding: 3px 0;
  font-size: 13.5px;
}
.say {
  text-align: left;
  white-space: normal;
  font-size: 14px;
  height: auto;
}
dl {
  display: grid;
  grid-template-columns: minmax(110px, auto) 1fr;
  gap: 3px 14px;
  margin: 4px 0 0;
  font-size: 13.5px;
}
dt,
dd {
  margin: 0;
}
</style>
