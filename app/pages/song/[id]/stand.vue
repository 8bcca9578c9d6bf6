<template>
  <StandPage />
</template>
