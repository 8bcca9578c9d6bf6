// Thin: the shelf written into one file and read back off the main thread, with progress and a stop.
import { openBackup, shelfSize, writeBackup, type OpenedBackup } from '#platform/backup'

export type BackupTask =
  | { want: 'size' }
  | { want: 'write' }
  | { want: 'open'; file: Blob }
  | { want: 'restore'; what: 'everything' | 'missing' }

let stop = new AbortController()
/** The backup that was looked into last: it is restored from. */
let opened: OpenedBackup | undefined

async function answer(task: BackupTask, run: number): Promise<unknown> {
  const onProgress = (stage: string, fraction: number): void =>
    self.postMessage({ run, kind: 'progress', stage, fraction })
  const job = { onProgress, signal: stop.signal }
  switch (task.want) {
    case 'size':
      return shelfSize()
    case 'write':
      return writeBackup(job)
    case 'open': {
      const read = await openBackup(task.file)
      if (!read.ok) return read
      opened = read.value
      const { restore: _here, ...facts } = read.value
      return { ok: true, value: facts }
    }
    case 'restore':
      return opened?.restore(task.what, job)
  }
}

self.onmessage = async ({
  data,
}: MessageEvent<{ kind: 'start'; run: number; task: BackupTask } | { kind: 'cancel' }>) => {
  if (data.kind === 'cancel') {
    stop.abort()
    return
  }
  stop = new AbortController()
  const { run, task } = data
  try {
    self.postMessage({ run, kind: 'done', value: await answer(task, run) })
  } catch (error) {
    self.postMessage({ run, kind: 'failed', message: error instanceof Error ? error.message : String(error) })
  }
}
