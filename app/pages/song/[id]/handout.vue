<template>
  <HandoutPage />
</template>
