// Thin: grips, paths, lines and sheets off the main thread, answered from one table.
import { serve } from '#platform/worker-desk'
import { PLAYING_TASKS, type PlayingTask, type Report } from './playing-tasks'

serve<PlayingTask>(
  self,
  () => (task, job) =>
    // The table's row and the task are of one kind: the type of the task says so, which TypeScript cannot
    // follow.
    (PLAYING_TASKS[task.want] as (given: PlayingTask, report: Report) => unknown)(task, job.report),
)
