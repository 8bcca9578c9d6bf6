/** Milliseconds this process has worked so far: unlike a clock, the same on a machine that is busy. */
export function workedMs(): number {
  const { user, system } = process.cpuUsage()
  return (user + system) / 1000
}
