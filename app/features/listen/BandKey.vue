<script setup lang="ts">
import { bandKey, type BandLine } from '#core/suggest/band-key'
import { useHearing } from '~/stores/hearing'
import { useSong } from '~/stores/song'

// Who sits where on the record; a part that sits nowhere yet is offered a side that somebody plays on.
const hearing = useHearing()
const song = useSong()
const lines = computed(() =>
  hearing.analysis && !hearing.progress && song.heardSong
    ? bandKey(song.heardSong, hearing.analysis, song.nameShift)
    : [],
)
const seat = ({ partId, pan }: NonNullable<BandLine['offer']>): void =>
  void song.run('changePart', { partId, set: { pan } })
</script>

<template>
  <section v-if="lines.length" aria-labelledby="band-key" class="band" data-test="band-key">
    <h3 id="band-key">Who plays where</h3>
    <ul>
      <li v-for="line in lines" :key="line.seat">
        <span
          ><b>{{ line.parts.length ? `${line.parts.join(', ')}, ${line.seat}` : line.seat }}</b
          >: {{ line.words }}</span
        >
        <ActButton
          v-if="line.offer"
          kind="link"
          :disabled="Boolean(song.readOnly)"
          :data-test="`seat-${line.seat}`"
          @click="seat(line.offer)"
        >
          {{ line.offer.name }} sits here
        </ActButton>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.band {
  font-size: 13.5px;
  line-height: 1.35;
}
h3 {
  font-size: 14px;
  margin: 0 0 2px;
}
ul {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 3px;
}
li b {
  font-weight: 600;
}
</style>
