<script setup lang="ts">
import type { Content, Figure, Note } from '#core/document/schema'
import { useSong } from '~/stores/song'
import type { Beside } from '../beside'
import type { Bench } from '../benchKeys'

// Two lines together: a harmony line made and kept linked, or checked; two parts for one player; another
// instrument's line taken over.
const props = defineProps<{ bench: Bench; figure: Figure }>()
const emit = defineEmits<{
  choose: [figureId: string]
  draft: [notes: Note[]]
  hear: [content: Content]
  beside: [what: Beside | undefined]
}>()
const store = useSong()
const { content } = props.bench
const followed = computed(() =>
  props.figure.derivedFrom ? store.song?.figures[props.figure.derivedFrom.figureId] : undefined,
)
const choose = (id: string): void => emit('choose', id)
const hear = (what: Content): void => emit('hear', what)
const beside = (what?: Beside): void => emit('beside', what)
</script>

<template>
  <div class="panel">
    <section v-if="followed">
      <h2 class="small-head">Follows “{{ followed.name }}”</h2>
      <p class="other row">
        <ActButton class="small" @click="emit('choose', followed.id)">Go to it</ActButton
        ><ActButton
          class="small"
          @click="store.run('releaseFigure', { figureId: figure.id, from: 'derivedFrom' })"
        >
          Stand alone
        </ActButton>
      </p>
    </section>
    <FollowedRule v-if="followed && figure.derivedFrom" :bench="bench" :figure="figure" />
    <HarmonyMaker
      v-if="content.notes.length && !followed"
      :bench="bench"
      :figure="figure"
      @choose="choose"
      @hear="hear"
      @beside="beside"
    />
    <HarmonyCheck v-if="content.notes.length" :bench="bench" :figure="figure" />
    <MergeParts :bench="bench" :figure="figure" @choose="choose" @hear="hear" @beside="beside" />
    <TakeOverLine :bench="bench" :figure="figure" @draft="emit('draft', $event)" />
  </div>
</template>
