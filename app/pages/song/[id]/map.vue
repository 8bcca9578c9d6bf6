<template>
  <MapPage />
</template>
