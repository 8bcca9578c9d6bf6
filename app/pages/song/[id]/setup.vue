<template>
  <SetupPage />
</template>
