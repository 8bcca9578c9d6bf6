<script setup lang="ts">
import { counted } from '#core/words/words'
import type { OpenedBackup, Restored, ShelfSize, WrittenBackup } from '#platform/backup'
import type { Refusal, Result } from '#core/result'
import { download } from '#platform/files'
import { openSession, type JobHandle, type Session } from '#platform/worker-job'
import type { BackupTask } from '~/workers/backup.worker'

// The whole shelf saved in one file, and brought back from one: what is here already is said first.
const open = defineModel<boolean>({ required: true })
const size = ref<ShelfSize>()
type BackupFacts = Omit<OpenedBackup, 'restore'>
const backup = shallowRef<BackupFacts>()
const progress = ref<{ words: string; share: number }>()
const problem = ref('')
const done = ref('')
const chooser = ref<HTMLInputElement>()
const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`
const here = computed(() =>
  [...(backup.value?.songs ?? []), ...(backup.value?.students ?? [])].filter(({ isHere }) => isHere),
)
const nameOf = (entry: { title: string } | { name: string }): string =>
  'title' in entry ? entry.title : entry.name
let session: Session | undefined
onScopeDispose(() => session?.close())
const makeWorker = (): Worker =>
  new Worker(new URL('../../workers/backup.worker.ts', import.meta.url), { type: 'module' })
const running = shallowRef<JobHandle<unknown>>()
/** Asks the worker; it keeps the backup that was opened last. */
async function ask<T>(task: BackupTask): Promise<Result<T>> {
  if (!session?.alive()) session = openSession(makeWorker)
  const job = session.ask<Result<T>>(task, { onProgress: (words, share) => report(words, share) })
  running.value = job
  const done = await job.result
  running.value = undefined
  progress.value = undefined
  return done.ok ? done.value : done
}
function refused(refusal: Refusal): void {
  if (refusal.code !== 'cancelled') problem.value = refusal.message
}
watch(open, async (now) => {
  if (!now) {
    session?.close()
    return
  }
  backup.value = undefined
  problem.value = ''
  done.value = ''
  const { shelfSize } = await import('#platform/backup')
  size.value = await shelfSize().catch(() => undefined)
})
const report = (words: string, share: number): void => {
  progress.value = { words, share }
}

async function save(): Promise<void> {
  problem.value = ''
  done.value = ''
  report('writing', 0)
  const made = await ask<WrittenBackup>({ want: 'write' })
  if (!made.ok) return refused(made.refusal)
  const { file, leftOut, withoutRecording } = made.value
  const day = new Date().toISOString().slice(0, 10)
  download(file, `shelf-${day}.synchorda-shelf.zip`, 'application/zip')
  done.value = `Saved, ${megabytes(file.size)}.`
  const problems: string[] = []
  if (leftOut.length) problems.push(`Not in it, because they cannot be read: ${leftOut.join(', ')}.`)
  if (withoutRecording.length)
    problems.push(
      `In it without a recording that is not on this machine: ${withoutRecording.join(', ')}. ` +
        'A demo song loads its own when it is opened.',
    )
  problem.value = problems.join(' ')
}
async function choose(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  problem.value = ''
  done.value = ''
  report('looking into it', 0)
  const opened = await ask<BackupFacts>({ want: 'open', file })
  if (opened.ok) backup.value = opened.value
  else refused(opened.refusal)
}
async function restore(what: 'everything' | 'missing'): Promise<void> {
  if (!backup.value) return
  report('bringing back', 0)
  const restored = await ask<Restored>({ want: 'restore', what })
  backup.value = undefined
  if (!restored.ok) return refused(restored.refusal)
  const { songs, students: taught, problems } = restored.value
  done.value = `Brought back: ${counted(songs, 'song')}, ${counted(taught, 'student')}.`
  problem.value = problems.join(' ')
}
function stop(): void {
  running.value?.cancel()
}
</script>

<template>
  <v-dialog v-model="open" aria-label="Backup" max-width="600" :persistent="Boolean(progress)">
    <v-card class="dialog">
      <h2>Backup</h2>
      <template v-if="!backup">
        <p v-if="size">
          On this shelf: {{ counted(size.songs, 'song') }}, {{ counted(size.students, 'student') }},
          {{ counted(size.recordings, 'recording') }} ({{ megabytes(size.bytes) }}).
        </p>
        <p class="quiet">
          One file with all of it, to keep on another disk. The recordings are in it: do not pass it on.
        </p>
        <div class="acts">
          <ActButton kind="main" data-test="backup-save" :disabled="Boolean(progress)" @click="save">
            Save the shelf
          </ActButton>
          <ActButton data-test="backup-choose" :disabled="Boolean(progress)" @click="chooser?.click()">
            Bring a shelf back
          </ActButton>
        </div>
        <input ref="chooser" type="file" accept=".zip" hidden data-test="backup-file" @change="choose" />
      </template>
      <template v-else>
        <p>
          In this file: {{ counted(backup.songs.length, 'song') }},
          {{ counted(backup.students.length, 'student') }}, {{ counted(backup.recordings, 'recording') }} ({{
            megabytes(backup.bytes)
          }}), made {{ backup.made.slice(0, 10) }}.
        </p>
        <template v-if="here.length">
          <p class="attention">Here already, and replaced if everything is brought back:</p>
          <ul data-test="backup-here">
            <li v-for="entry in here" :key="entry.id">{{ nameOf(entry) }}</li>
          </ul>
        </template>
        <div class="acts">
          <ActButton
            kind="main"
            data-test="restore-missing"
            :disabled="Boolean(progress)"
            @click="restore('missing')"
          >
            Bring back what is missing
          </ActButton>
          <ActButton data-test="restore-all" :disabled="Boolean(progress)" @click="restore('everything')">
            Everything{{ here.length ? `, replacing ${here.length}` : '' }}
          </ActButton>
        </div>
      </template>
      <div v-if="progress" role="status">
        <v-progress-linear :model-value="progress.share * 100" color="primary" aria-label="Progress" />
        <span class="quiet">{{ progress.words }}…</span>
        <ActButton v-if="running" kind="link" data-test="backup-stop" @click="stop">Stop</ActButton>
      </div>
      <p v-if="done" role="status" data-test="backup-done">{{ done }}</p>
      <p v-if="problem" class="attention" role="alert">{{ problem }}</p>
      <div class="acts end">
        <ActButton :disabled="Boolean(progress)" @click="open = false">Close</ActButton>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.dialog {
  padding: 24px;
  display: grid;
  gap: 14px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.end {
  justify-content: flex-end;
}
ul {
  max-height: 200px;
  overflow-y: auto;
  padding-left: 20px;
}
</style>
