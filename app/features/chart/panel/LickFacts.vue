<script setup lang="ts">
import { z } from 'zod'
import { findLick, lickNotes, lickPlaceWords, type LickFound, type LickPlace } from '#core/explore/licks'
import { beatTicks } from '#core/time/meter'
import type { Figure } from '#core/document/schema'
import { useSong } from '~/stores/song'
import type { Bench } from '../benchKeys'
import { useLicks } from '../licksEditing'
import { placeWords } from './placeWords'

// Phrases of the figure that have a name: where else they are played, how often, and put in again.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{ choose: [figureId: string] }>()
const store = useSong()
const { tick } = props.bench
const name = ref('')
const beats = ref(4)
const beatsSchema = z.number().min(0.5).max(64)
const place = (at: number): string => placeWords(props.figure, at)
const here = computed(() => ({
  startTicks: tick.value,
  lengthTicks: Math.round(beats.value * beatTicks(props.figure.meter)),
}))
const count = computed(() => (store.song ? lickNotes(store.song, props.figure, here.value).length : 0))
const own = computed<LickFound[]>(() =>
  store.song ? (props.figure.licks ?? []).map((lick) => findLick(store.song!, props.figure.id, lick)) : [],
)
/** Licks named in other figures of the part: put in here when wanted. */
const others = computed(() =>
  Object.values(store.song?.figures ?? {}).flatMap((figure) =>
    figure.id !== props.figure.id && figure.partId === props.figure.partId
      ? (figure.licks ?? []).map((lick) => ({
          title: `${lick.name} (${figure.name})`,
          value: `${figure.id}/${lick.id}`,
        }))
      : [],
  ),
)
const { name: keepName, forget, putIn } = useLicks(props.bench, () => props.figure)
function keep(): void {
  const title = name.value.trim()
  if (title && keepName({ name: title, ...here.value })) name.value = ''
}
function putInFrom(key: string): void {
  const [figureId = '', lickId] = key.split('/')
  const figure = store.song?.figures[figureId]
  const lick = figure?.licks?.find(({ id }) => id === lickId)
  if (figure && lick) putIn(figure, lick)
}
const figureName = (id: string): string => store.song?.figures[id]?.name ?? ''
function go({ figureId, startTicks }: LickPlace): void {
  if (figureId === props.figure.id) props.bench.go(props.bench.row.value, startTicks)
  else emit('choose', figureId)
}
</script>

<template>
  <section data-test="licks">
    <h2 class="small-head">Licks</h2>
    <div v-for="found in own" :key="found.lick.id" class="other lick">
      <b>{{ found.lick.name }}</b><span class="quiet">{{
        `, ${place(found.lick.startTicks)}: ${found.notes} notes, played ${found.plays} times in all`
      }}</span>
      <ul>
        <li v-for="one in found.places" :key="`${one.figureId}${one.startTicks}`">
          <ActButton kind="link" @click="go(one)">{{ figureName(one.figureId) }}</ActButton>{{
            `: ${lickPlaceWords(one, found.notes)}`
          }}
        </li>
      </ul>
      <p v-if="!found.places.length" class="quiet">Nowhere else in the song.</p>
      <p class="row">
        <ActButton class="small" @click="putIn(figure, found.lick)">Put it in at the cursor</ActButton>
        <ActButton class="small" @click="forget(found.lick)">Forget the name</ActButton>
      </p>
    </div>
    <p class="other quiet">From {{ place(tick) }}: {{ count }} notes in</p>
    <div class="other naming">
      <NumberField label="Beats" :schema="beatsSchema" :model-value="beats" @take="beats = $event" />
      <v-text-field
        v-model="name"
        label="Name, as “his usual line”"
        :maxlength="80"
        data-test="lick-name"
        @keydown.enter="keep"
      />
      <ActButton class="small" :disabled="!name.trim() || count < 2" data-test="keep-lick" @click="keep">
        Name the lick
      </ActButton>
    </div>
    <MenuButton v-if="others.length" label="Put in a lick of this part" :items="others" @choose="putInFrom" />
  </section>
</template>

<style scoped>
.lick ul {
  list-style: none;
  padding: 0;
  margin: 2px 0;
}
.lick {
  margin-bottom: 8px;
}
.naming {
  display: grid;
  gap: 8px;
  margin-top: 6px;
}
</style>
