// Thin: grips, paths, lines and sheets off the main thread. One question at a time, answered from one table.
import { PLAYING_TASKS, type PlayingTask, type Report } from './playing-tasks'

const answer = (task: PlayingTask, report: Report): unknown =>
  // The table's row and the task are of one kind: the type of the task says so, which TypeScript cannot
  // follow.
  (PLAYING_TASKS[task.want] as (given: PlayingTask, report: Report) => unknown)(task, report)

self.onmessage = async ({
  data,
}: MessageEvent<{ kind: 'start'; run: number; task: PlayingTask } | { kind: 'cancel' }>) => {
  if (data.kind === 'cancel') return
  const { run, task } = data
  try {
    const value = await answer(task, (stage, fraction) =>
      self.postMessage({ run, kind: 'progress', stage, fraction }),
    )
    self.postMessage({ run, kind: 'done', value })
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error)
    self.postMessage({ run, kind: 'failed', message })
  }
}
