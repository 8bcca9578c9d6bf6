<script setup lang="ts">
// One thing of the playing bar: its name, how it stands, and a card above it with what can be done.
defineProps<{
  name: string
  words: string
  hint: string
  test: string
  cardTest?: string
  disabled?: boolean
}>()
</script>

<template>
  <div class="block">
    <span class="quiet">{{ name }}</span>
    <v-menu :close-on-content-click="false" location="top">
      <template #activator="{ props: activator }">
        <ActButton
          v-bind="activator"
          kind="plain"
          class="strong"
          :data-test="test"
          :disabled="disabled"
          :title="hint"
        >
          {{ words }} <span aria-hidden="true">▴</span>
        </ActButton>
      </template>
      <v-card class="bar-menu" :data-test="cardTest"><slot /></v-card>
    </v-menu>
  </div>
</template>

<style scoped>
.block {
  display: flex;
  flex-direction: column;
  font-size: 13.5px;
  white-space: nowrap;
}
.strong.v-btn {
  font-size: 14.5px;
  font-weight: 700;
  max-width: 170px;
  justify-content: flex-start;
  font-variant-numeric: tabular-nums;
}
</style>
