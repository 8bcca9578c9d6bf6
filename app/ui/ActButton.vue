<script setup lang="ts">
/**
 * What can be done: the main thing of a page, one of several, or a word or sign in passing. Attributes and
 * listeners go to the button.
 */
withDefaults(defineProps<{ kind?: 'main' | 'chip' | 'plain' | 'link' }>(), { kind: 'chip' })
</script>

<template>
  <v-btn :class="`${kind}-button`" variant="text" :ripple="false">
    <slot />
  </v-btn>
</template>
