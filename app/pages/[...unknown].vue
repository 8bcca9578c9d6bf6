<template>
  <div class="unknown">
    <h1>There is no such page</h1>
    <p>The address is not one of Synchorda’s. Your songs are where they were.</p>
    <NuxtLink class="link" to="/">Back to the shelf</NuxtLink>
  </div>
</template>

<style scoped>
.unknown {
  padding: 30px;
  display: grid;
  gap: 12px;
  justify-items: start;
}
</style>
