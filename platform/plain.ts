// The one border behind which nothing reactive goes: what is sent to a worker or put into the database is
// copied to plain data here. Sound stays where it is: typed arrays, buffers and blobs are handed on as they
// are.

/** A plain copy: objects and arrays anew, whatever observes them left behind. Functions are refused. */
export function plain<T>(value: T): T {
  return copied(value) as T
}

function copied(value: unknown): unknown {
  if (typeof value === 'function') throw new TypeError('A function cannot be stored or sent.')
  if (typeof value !== 'object' || value === null || isBinary(value)) return value
  if (Array.isArray(value)) return value.map(copied)
  if (value instanceof Map) return new Map([...value].map(([key, entry]) => [copied(key), copied(entry)]))
  if (value instanceof Set) return new Set([...value].map(copied))
  const copy: Record<string, unknown> = {}
  for (const [key, entry] of Object.entries(value)) copy[key] = copied(entry)
  return copy
}

const isBinary = (value: object): boolean =>
  ArrayBuffer.isView(value) ||
  value instanceof ArrayBuffer ||
  value instanceof Blob ||
  (typeof MessagePort !== 'undefined' && value instanceof MessagePort)
