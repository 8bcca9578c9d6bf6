<script setup lang="ts">
/**
 * What can be done: the main thing of a page, one of several, or a word or sign in passing. Attributes and
 * listeners go to the button.
 */
const props = withDefaults(
  defineProps<{
    kind?: 'main' | 'chip' | 'plain' | 'link'
    /** It makes something: pressed twice in a row it makes one. */
    once?: boolean
  }>(),
  { kind: 'chip' },
)
function onlyOnce(event: MouseEvent): void {
  if (props.once && event.detail > 1) event.stopImmediatePropagation()
}
</script>

<template>
  <v-btn :class="`${kind}-button`" variant="text" :ripple="false" @click.capture="onlyOnce">
    <slot />
  </v-btn>
</template>
