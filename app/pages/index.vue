<template>
  <ShelfPage />
</template>
