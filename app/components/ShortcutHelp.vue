<script setup lang="ts">
import { WORDS } from '#core/call/vocabulary'
import { activeShortcuts, showKey, type Shortcut } from '~/composables/shortcuts'
import { useWalk } from '~/stores/walk'

const open = defineModel<boolean>({ required: true })
const walk = useWalk()
function walkAgain(): void {
  open.value = false
  void walk.start()
}
const page = ref<'keys' | 'words'>('keys')
const wanted = ref('')
type Entry = Pick<Shortcut, 'keys' | 'label'>
/** Keys without words of their own stand with those before them: the digits, the fingers. */
const joined = (list: readonly Entry[]): Entry[] =>
  list.reduce<Entry[]>((rows, { keys, label }) => {
    const last = rows.at(-1)
    if (label || !last) return [...rows, { keys, label }]
    return [...rows.slice(0, -1), { ...last, keys: [...last.keys, ...keys] }]
  }, [])
const groups = computed(() =>
  [...new Set(activeShortcuts.value.map((shortcut) => shortcut.group ?? 'This step'))]
    .reverse()
    .map((name) => ({
      name,
      list: joined(activeShortcuts.value.filter((shortcut) => (shortcut.group ?? 'This step') === name)),
    })),
)
/** Words of the call line that are, shorten to, or mean what is looked for. */
const words = computed(() => {
  const text = wanted.value.trim().toLowerCase()
  return WORDS.filter(
    ({ word, short, help }) =>
      !text || word.includes(text) || short === text || help.toLowerCase().includes(text),
  )
})
</script>

<template>
  <v-dialog v-model="open" max-width="900" scrollable aria-label="Help">
    <v-card class="help">
      <div class="head">
        <h2 id="help-title">{{ page === 'keys' ? 'What the keys do here' : 'Words of the call line' }}</h2>
        <v-btn-toggle
          v-model="page"
          mandatory
          density="compact"
          variant="outlined"
          aria-label="What is shown"
        >
          <v-btn value="keys">Keys</v-btn>
          <v-btn value="words" data-test="help-words">Words</v-btn>
        </v-btn-toggle>
      </div>
      <div class="body" tabindex="0" role="region" aria-labelledby="help-title">
        <div v-if="page === 'keys'" class="groups" data-test="help-keys">
          <section v-for="group in groups" :key="group.name">
            <h3>{{ group.name }}</h3>
            <dl>
              <template v-for="entry in group.list" :key="entry.label"
                ><dt>
                  <kbd v-for="key in entry.keys" :key="key" :data-key="key">{{ showKey(key) }}</kbd>
                </dt>
                <dd>{{ entry.label }}</dd></template
              >
            </dl>
          </section>
        </div>
        <template v-else>
          <v-text-field
            v-model="wanted"
            label="Look for a word, a short form, or what it does"
            data-test="help-search"
            clearable
          />
          <p class="quiet example">
            For example: <b>G seven seven, hammer seven nine</b> · <b>high E eight pull seven</b> ·
            <b>two dead, down up down</b>
          </p>
          <dl class="words">
            <template v-for="entry in words" :key="entry.word"
              ><dt>
                <b>{{ entry.word }}</b><span v-if="entry.short" class="mono quiet">{{ entry.short }}</span>
              </dt>
              <dd>{{ entry.help }}</dd></template
            >
          </dl>
          <p v-if="words.length === 0" class="quiet">No word does that yet: try another way to say it.</p>
        </template>
      </div>
      <div class="foot">
        <v-btn variant="flat" color="primary" @click="open = false">Close</v-btn>
        <v-btn variant="text" data-test="walk-again" @click="walkAgain">A walk through a demo song</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.help {
  padding: 20px 26px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  max-height: 88dvh;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
}
.body {
  overflow: auto;
  min-height: 0;
}
.example {
  font-size: 14px;
  margin: 8px 0;
}
.words dt {
  gap: 8px;
}
.foot {
  display: flex;
  gap: 14px;
}
.groups {
  columns: 2;
  column-gap: 34px;
  margin: 12px 0 18px;
}
section {
  break-inside: avoid-column;
  margin-bottom: 16px;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 5px 14px;
  margin-top: 6px;
  align-items: center;
}
dt {
  display: flex;
  flex-wrap: wrap;
  max-width: 190px;
  gap: 4px;
}
dd {
  font-size: 14.5px;
}
@media (max-width: 800px) {
  .groups {
    columns: 1;
  }
}
</style>
