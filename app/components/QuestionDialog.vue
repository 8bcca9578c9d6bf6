<script setup lang="ts">
import { useQuestion } from '~/session/question'

const question = useQuestion()
</script>

<template>
  <v-dialog
    :aria-label="question?.title ?? 'Question'"
    :model-value="Boolean(question)"
    max-width="480"
    @update:model-value="question?.answer(false)"
  >
    <v-card v-if="question" class="question" data-test="question">
      <h2>{{ question.title }}</h2>
      <p>This goes or changes along with it:</p>
      <ul>
        <li v-for="consequence in question.consequences" :key="consequence">{{ consequence }}</li>
      </ul>
      <p class="quiet">Undo brings all of it back.</p>
      <div class="acts">
        <v-btn
          variant="flat"
          color="primary"
          autofocus
          data-test="question-yes"
          @click="question.answer(true)"
        >
          {{ question.yes }}
        </v-btn>
        <v-btn variant="outlined" data-test="question-no" @click="question.answer(false)"
          >Leave it as it is</v-btn
        >
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.question {
  padding: 22px 26px;
  display: grid;
  gap: 12px;
}
ul {
  padding-left: 20px;
  display: grid;
  gap: 4px;
}
.acts {
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
}
</style>
