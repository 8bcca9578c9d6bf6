<template>
  <ListenPage />
</template>
