<template>
  <ProvePage />
</template>
