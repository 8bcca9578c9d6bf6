<script setup lang="ts">
import { LEVELS, type Level } from '#core/teach/student'
import { z } from 'zod'
import type { Teach } from './useTeach'

// Who learns: hand, level, and the file of it.
const props = defineProps<{ teach: Teach }>()
const { students } = props.teach
const adding = ref('')
const file = ref<HTMLInputElement>()
const items = computed(() => students.all.map(({ id, name }) => ({ title: name, value: id })))
const hand = z.number().min(50, 'at least 50').max(160, 'at most 160')
async function add(): Promise<void> {
  const name = adding.value.trim().slice(0, 80)
  if (!name) return
  adding.value = ''
  await students.add(name)
}
const asking = ref(false)
async function remove(): Promise<void> {
  asking.value = false
  if (students.chosen) await students.remove(students.chosen.id)
}
async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [chosen] = input.files ?? []
  if (chosen) await students.bringIn(await chosen.text())
  input.value = ''
}
</script>

<template>
  <div class="student">
    <div class="row">
      <SelectField
        v-if="students.chosen"
        :model-value="students.chosen.id"
        label="Student"
        :items="items"
        data-test="student"
        @update:model-value="students.choose($event)"
      />
      <NumberField
        v-if="students.chosen"
        label="Hand, mm"
        :model-value="students.chosen.handMm"
        :schema="hand"
        data-test="hand-mm"
        @take="students.change({ handMm: $event })"
      />
      <SelectField
        v-if="students.chosen"
        :model-value="students.chosen.level"
        label="Level"
        :items="LEVELS"
        @update:model-value="students.change({ level: $event as Level })"
      />
    </div>
    <form class="row" @submit.prevent="add">
      <v-text-field v-model="adding" label="A new student’s name" maxlength="80" data-test="new-student" />
      <ActButton type="submit" :disabled="!adding.trim()" data-test="add-student">Add</ActButton>
      <ActButton v-if="students.chosen" data-test="save-student" @click="students.saveFile()"
        >Save as a file</ActButton
      >
      <ActButton v-if="students.chosen" data-test="remove-student" @click="asking = true">Remove</ActButton>
      <ActButton data-test="bring-student" @click="file?.click()">Bring one in</ActButton>
      <input
        ref="file"
        type="file"
        accept=".json,application/json"
        hidden
        data-test="student-file"
        @change="take"
      />
    </form>
    <p v-if="asking && students.chosen" role="alertdialog" aria-label="Remove the student" class="row">
      <span
        >Remove {{ students.chosen.name }} with plans and log? Save the file first if you may want it
        back.</span
      >
      <ActButton data-test="really-remove" @click="remove">Remove {{ students.chosen.name }}</ActButton>
      <ActButton @click="asking = false">Keep</ActButton>
    </p>
    <p v-if="students.arriving" role="alertdialog" aria-label="Already here" class="row">
      <span
        >{{ students.arriving.name }} is here already. The file has {{ students.arriving.log.length }} times
        of practice; it takes the place of all that is here.</span
      >
      <ActButton data-test="really-replace" @click="students.arrive()">Take the file</ActButton>
      <ActButton @click="students.sendAway()">Keep what is here</ActButton>
    </p>
    <p v-if="students.damage.length" role="alert" class="problem row" data-test="student-damaged">
      <span
        >What is stored of {{ students.chosen?.name }} is damaged. Not readable:
        {{ students.damage.join(', ') }}. All else is shown; the next change writes it without that.</span
      >
      <ActButton @click="students.saveAsStored()">Save as it is stored</ActButton>
    </p>
    <p v-if="students.problem" role="alert" class="problem">{{ students.problem }}</p>
  </div>
</template>

<style scoped>
.student {
  display: grid;
  gap: 8px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.row > :not(button) {
  flex: 1 1 110px;
}
.problem {
  color: var(--attention);
}
</style>
