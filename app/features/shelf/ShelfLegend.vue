<template>
  <p class="legend quiet" aria-label="What the strips of the form mean">
    <span><i class="piece verse" />verse</span><span><i class="piece chorus" />chorus</span
    ><span><i class="piece solo" />bridge, solo</span><span><i class="piece" />all else</span
    ><span><i class="piece hatched" />not laid out yet</span>
  </p>
</template>

<style scoped>
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  font-size: 13.5px;
  margin-top: 16px;
}
.legend span {
  display: inline-flex;
  align-items: center;
  gap: 7px;
}
.legend .piece {
  width: 26px;
  height: 16px;
}
</style>
