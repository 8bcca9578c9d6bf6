<script setup lang="ts" generic="T extends string | number">
/** A button that opens a list of things to do; choosing one does it. */
defineOptions({ inheritAttrs: false })
defineProps<{ label: string; items: readonly { title: string; value: T }[] }>()
const emit = defineEmits<{ choose: [value: T] }>()
</script>

<template>
  <v-menu>
    <template #activator="{ props: activator }">
      <ActButton v-bind="{ ...$attrs, ...activator }" class="small"
        >{{ label }} <span aria-hidden="true">▾</span></ActButton
      >
    </template>
    <v-list density="compact" class="select-menu">
      <v-list-item
        v-for="item in items"
        :key="item.value"
        :title="item.title"
        @click="emit('choose', item.value)"
      />
    </v-list>
  </v-menu>
</template>
