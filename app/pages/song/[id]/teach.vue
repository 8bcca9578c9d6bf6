<template>
  <TeachPage />
</template>
