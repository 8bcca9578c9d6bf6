<template>
  <ChartPage />
</template>
