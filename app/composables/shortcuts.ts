// One list of what keys do, per step; the help page and the keyboard read the same.
export interface Shortcut { keys: string[]; label: string; run: (event: KeyboardEvent) => void; group?: string }

const active = shallowRef<Shortcut[][]>([])
/** What the keys do now, outermost first. */
export const activeShortcuts = computed(() => active.value.flat())

const typing = (event: KeyboardEvent): boolean => {
  const target = event.target as HTMLElement | null
  return Boolean(target?.closest('input:not([type=range]):not([type=checkbox]), textarea, select, [contenteditable=true], .v-overlay--active .v-card, [role=listbox], [role=menu]'))
}

/** "Shift+ArrowLeft", "mod+z" (Ctrl or Cmd), "s", "Space". */
export function keyOf(event: KeyboardEvent): string {
  const name = event.key === ' ' ? 'Space' : event.key.length === 1 ? event.key.toLowerCase() : event.key
  const shifted = event.shiftKey && (event.key.length > 1 || /[a-z ]/i.test(event.key))
  return [event.ctrlKey || event.metaKey ? 'mod' : '', event.altKey ? 'Alt' : '', shifted ? 'Shift' : '', name].filter(Boolean).join('+')
}

let listening = false
function listen(): void {
  if (listening) return
  listening = true
  window.addEventListener('keydown', (event) => {
    const key = keyOf(event)
    if (event.defaultPrevented || (typing(event) && !key.startsWith('mod+z') && !key.startsWith('mod+Shift+z'))) return
    // A focused button keeps its own Space and Enter; everything else is the step's.
    if ((key === 'Enter' || (key === 'Space' && (event.target as HTMLElement).closest('[role=checkbox],[role=switch]'))) && (event.target as HTMLElement).closest('button,a')) return
    for (const list of active.value.toReversed()) {
      const found = list.find((shortcut) => shortcut.keys.includes(key))
      if (found) { event.preventDefault(); found.run(event); return }
    }
  })
}

/** Registers a component's keys while it lives; later ones win. */
export function useShortcuts(list: Shortcut[]): void {
  onMounted(() => { listen(); active.value = [...active.value, list] })
  onBeforeUnmount(() => { active.value = active.value.filter((other) => other !== list) })
}

/** A key as printed for people. */
export const showKey = (key: string): string => key.replace('mod', 'Ctrl').replace('Arrow', '').replace('Left', '←').replace('Right', '→').replace('Up', '↑').replace('Down', '↓').replaceAll('+', ' ').replace('Delete', 'Del')
