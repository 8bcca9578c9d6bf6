// The one recording that is held: decoded once for all who ask, let go when the song is left.
import type { Recording } from '#core/hear/features/recording'

export class RecordingHolder {
  private held: { hash: string; recording: Recording } | undefined
  private opening: { hash: string; done: Promise<Recording | undefined> } | undefined

  /** `decode` gives undefined where there is no such recording on this machine. */
  constructor(private readonly decode: (hash: string) => Promise<Recording | undefined>) {}

  /** What is held now, to be read where it lies. */
  get lent(): Recording | undefined {
    return this.held?.recording
  }

  /**
   * The recording with this hash; undefined when it is not here or cannot be read, or when it was closed
   * meanwhile.
   */
  async open(hash: string): Promise<Recording | undefined> {
    if (this.held?.hash === hash) return this.held.recording
    if (this.opening?.hash === hash) return this.opening.done
    this.held = undefined
    const mine = { hash, done: this.decode(hash).catch(() => undefined) }
    this.opening = mine
    const recording = await mine.done
    if (this.opening !== mine) return this.askedAgain(hash)
    this.opening = undefined
    if (recording) this.held = { hash, recording }
    return recording
  }

  /** For who waited for what was closed: the same recording, when somebody opened it anew. */
  private askedAgain(hash: string): Promise<Recording | undefined> | Recording | undefined {
    if (this.opening?.hash === hash) return this.opening.done
    return this.held?.hash === hash ? this.held.recording : undefined
  }

  close(): void {
    this.held = undefined
    this.opening = undefined
  }
}
