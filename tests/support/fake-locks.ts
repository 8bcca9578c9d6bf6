// The browser's locks as far as they are used here: names apart, one holder or several sharing, a queue,
// stealing, and who holds and waits.
type Granted<T> = (lock: object | null) => T | Promise<T>
interface Options {
  ifAvailable?: boolean
  steal?: boolean
  mode?: 'shared' | 'exclusive'
  signal?: AbortSignal
}
interface Waiting {
  shared: boolean
  start: () => void
  reject: (error: unknown) => void
}

export function fakeLocks() {
  const holders = new Map<string, Set<Waiting>>()
  const queues = new Map<string, Waiting[]>()
  const of = <T>(map: Map<string, T>, name: string, empty: T): T => {
    if (!map.has(name)) map.set(name, empty)
    return map.get(name)!
  }
  const isFree = (name: string, shared: boolean): boolean => {
    const held = of(holders, name, new Set<Waiting>())
    return held.size === 0 || (shared && [...held].every((one) => one.shared))
  }
  const next = (name: string): void => {
    const queue = of(queues, name, [])
    while (queue[0] && isFree(name, queue[0].shared)) queue.shift()!.start()
  }

  function request<T>(name: string, ...rest: [Granted<T>] | [Options, Granted<T>]): Promise<T> {
    const [options, granted] = rest.length === 1 ? [{}, rest[0]] : rest
    return new Promise((resolve, reject) => {
      const own: Waiting = {
        shared: options.mode === 'shared',
        reject,
        start() {
          of(holders, name, new Set()).add(own)
          void Promise.resolve(granted({}))
            .then(resolve, reject)
            .finally(() => {
              if (of(holders, name, new Set()).delete(own)) next(name)
            })
        },
      }
      if (options.steal) {
        for (const one of of(holders, name, new Set())) one.reject(new DOMException('stolen', 'AbortError'))
        holders.set(name, new Set())
        own.start()
      } else if (isFree(name, own.shared)) own.start()
      else if (options.ifAvailable) void Promise.resolve(granted(null)).then(resolve, reject)
      else {
        const queue = of(queues, name, [])
        queue.push(own)
        options.signal?.addEventListener('abort', () => {
          const at = queue.indexOf(own)
          if (at >= 0) queue.splice(at, 1)
          reject(new DOMException('given up', 'AbortError'))
        })
      }
    })
  }
  const named = (map: Map<string, { size: number } | { length: number }>): { name: string }[] =>
    [...map].flatMap(([name, all]) => (('size' in all ? all.size : all.length) ? [{ name }] : []))
  const query = () => Promise.resolve({ held: named(holders), pending: named(queues) })
  return { request, query }
}
