// What a user can cause comes back as a value: a result or a refusal that says why and what to do. Only
// bugs throw.

export interface Refusal {
  code: string
  message: string
}
export type Result<T> = { ok: true; value: T } | { ok: false; refusal: Refusal }

export const ok = <T>(value: T): Result<T> => ({ ok: true, value })
export const refuse = (code: string, message: string): { ok: false; refusal: Refusal } => ({
  ok: false,
  refusal: { code, message },
})

/** Throws when a thing that only a bug can break is broken. */
export function invariant(condition: unknown, message: string): asserts condition {
  if (!condition) throw new Error(`Broken invariant: ${message}`)
}

/** Unwraps a result that cannot fail here; throws on a refusal. For scripts and tests. */
export function must<T>(result: Result<T>): T {
  if (!result.ok) throw new Error(`${result.refusal.code}: ${result.refusal.message}`)
  return result.value
}
