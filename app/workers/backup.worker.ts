// Thin: the shelf written into one file and read back off the main thread, with progress and a stop.
import { openBackup, shelfSize, writeBackup, type OpenedBackup } from '#platform/backup'
import { serve, type Answer, type DeskJob } from '#platform/worker-desk'

export type BackupTask =
  | { want: 'size' }
  | { want: 'write' }
  | { want: 'open'; file: Blob }
  | { want: 'restore'; what: 'everything' | 'missing' }

function openDesk(): Answer<BackupTask> {
  /** The backup that was looked into last: it is restored from. */
  let opened: OpenedBackup | undefined
  return async (task, desk: DeskJob) => {
    const job = { onProgress: desk.report, signal: desk.signal }
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
}

serve(self, openDesk)
