// Keeps the screen awake while a view is open, where the browser can; asked for anew when it is back.
export function useAwake(): void {
  let lock: WakeLockSentinel | undefined
  async function ask(): Promise<void> {
    if (document.visibilityState !== 'visible') return
    lock = await navigator.wakeLock?.request('screen').catch(() => undefined)
  }
  const again = (): void => void ask()
  onMounted(() => {
    void ask()
    document.addEventListener('visibilitychange', again)
  })
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', again)
    void lock?.release().catch(() => undefined)
  })
}
