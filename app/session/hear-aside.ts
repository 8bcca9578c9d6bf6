// What is heard aside from the song: a chord against the record, readings of a doubt, another count.
// Playing as usual leaves it again.
import type { Ref } from 'vue'
import type { Scope } from './play-plan'

interface Playing {
  playing: Ref<boolean>
  scope: Ref<Scope>
  cursor: Ref<number>
  setScope: (scope: Scope) => void
  stop: () => void
  play: (from?: number) => Promise<void>
}

const ASIDE: ReadonlySet<Scope['kind']> = new Set<Scope['kind']>(['candidate', 'readings', 'count'])

export function useAside({ playing, scope, cursor, setScope, stop, play }: Playing) {
  return {
    /** Sounds a chord against the record over a stretch, round and round; the same again stops it. */
    hearCandidate(symbol: string, startSeconds: number, endSeconds: number): void {
      const same =
        playing.value &&
        scope.value.kind === 'candidate' &&
        scope.value.symbol === symbol &&
        scope.value.startSeconds === startSeconds
      setScope({ kind: 'candidate', symbol, startSeconds, endSeconds })
      if (same) {
        stop()
        setScope({ kind: 'song' })
      } else void play(startSeconds)
    },
    /** Readings of a doubt against the record, round and round; the same again stops it. */
    hearReadings(readings: Extract<Scope, { kind: 'readings' }>): void {
      const same = playing.value && scope.value.kind === 'readings' && scope.value.name === readings.name
      setScope(readings)
      if (same) {
        stop()
        setScope({ kind: 'song' })
      } else void play(readings.startSeconds)
    },
    /** Plays the record with a click on these beats, from here: how another count would feel. */
    hearCount(beats: readonly number[], ones: readonly number[]): void {
      setScope({ kind: 'count', beats, ones })
      void play(Math.max(0, cursor.value))
    },
    /** Back to the song itself. */
    leave(): void {
      if (!ASIDE.has(scope.value.kind)) return
      stop()
      scope.value = { kind: 'song' }
    },
  }
}
