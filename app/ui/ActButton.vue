<script setup lang="ts">
/** What can be done: the main thing of a page, or one of several. Attributes and listeners go to the button. */
withDefaults(defineProps<{ kind?: 'main' | 'chip' }>(), { kind: 'chip' })
</script>

<template>
  <v-btn :class="kind === 'main' ? 'main-button' : 'chip-button'" variant="text" :ripple="false">
    <slot />
  </v-btn>
</template>
