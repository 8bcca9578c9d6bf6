<template>
  <ComparePage />
</template>
