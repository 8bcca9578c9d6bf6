// One list of what keys do, per step; the help page and the keyboard read the same.
export interface Shortcut {
  keys: string[]
  label: string
  run: (event: KeyboardEvent) => void
  group?: string
}

const active = shallowRef<Shortcut[][]>([])
/**
 * What the keys do now, outermost first: each key once, with what it really does. A step that needs a key for
 * itself takes it from the lists around it.
 */
export const activeShortcuts = computed(() => {
  const taken = new Set<string>()
  const effective: Shortcut[] = []
  for (const list of active.value.toReversed()) {
    const own = list
      .map((shortcut) => ({ ...shortcut, keys: shortcut.keys.filter((key) => !taken.has(key)) }))
      .filter((shortcut) => shortcut.keys.length > 0)
    for (const { keys } of own) for (const key of keys) taken.add(key)
    effective.unshift(...own)
  }
  return effective
})

const TAKES_TYPING = [
  'input:not([type=range]):not([type=checkbox])',
  'textarea',
  '[contenteditable=true]',
  '.v-overlay--active .v-card',
  '[role=listbox]',
  '[role=menu]',
].join()
const typing = (event: KeyboardEvent): boolean => {
  const target = event.target as HTMLElement | null
  return Boolean(target?.closest(TAKES_TYPING))
}

const OVER_THE_PAGE = '.v-overlay--active .v-card, .v-overlay--active .v-list, [data-test=walk]'

/** "Shift+ArrowLeft", "mod+z" (Ctrl or Cmd), "s", "Space". */
function keyOf(event: KeyboardEvent): string {
  const printed = event.key.length === 1 ? event.key.toLowerCase() : event.key
  const name = event.key === ' ' ? 'Space' : printed
  const shifted = event.shiftKey && (event.key.length > 1 || /[a-z ]/i.test(event.key))
  return [
    event.ctrlKey || event.metaKey ? 'mod' : '',
    event.altKey ? 'Alt' : '',
    shifted ? 'Shift' : '',
    name,
  ]
    .filter(Boolean)
    .join('+')
}

const SPACE_OPERATES =
  'button,summary,[role=button],[role=checkbox],[role=switch],[role=radio],[role=tab],[role=option],' +
  '[role=combobox],[type=checkbox]'
const SLIDER_KEYS = /^(Shift\+)?(Arrow(Left|Right|Up|Down)|Home|End|PageUp|PageDown)$/

/** Keys that the focused control itself answers to. */
function keepsForItself(target: HTMLElement, key: string): boolean {
  if (key === 'Enter') return Boolean(target.closest('button,a'))
  if (key === 'Space') return Boolean(target.closest(SPACE_OPERATES))
  return SLIDER_KEYS.test(key) && Boolean(target.closest('[type=range],[role=slider]'))
}

/**
 * A button pressed with the mouse or a finger lets go of the keyboard, so that Space plays again; one reached
 * with the keyboard keeps it.
 */
function letGo(event: MouseEvent): void {
  const button = (event.target as HTMLElement | null)?.closest('button')
  if (event.detail > 0 && button && !button.closest('.v-overlay')) button.blur()
}

let listening = false
function listen(): void {
  if (listening) return
  listening = true
  window.addEventListener('click', letGo)
  window.addEventListener('keydown', (event) => {
    const key = keyOf(event)
    if (
      event.defaultPrevented ||
      (typing(event) && !key.startsWith('mod+z') && !key.startsWith('mod+Shift+z'))
    )
      return
    if (keepsForItself(event.target as HTMLElement, key)) return
    // What lies over the page is closed first, and nothing else with it.
    if (key === 'Escape' && document.querySelector(OVER_THE_PAGE)) return
    for (const list of active.value.toReversed()) {
      const found = list.find((shortcut) => shortcut.keys.includes(key))
      if (found) {
        event.preventDefault()
        found.run(event)
        return
      }
    }
  })
}

/** Registers a component's keys while it lives; later ones win. */
export function useShortcuts(list: Shortcut[]): void {
  onMounted(() => {
    listen()
    active.value = [...active.value, list]
  })
  onBeforeUnmount(() => {
    active.value = active.value.filter((other) => other !== list)
  })
}

/** A key as printed for people. */
export const showKey = (key: string): string =>
  key
    .replace('mod', 'Ctrl')
    .replace('Arrow', '')
    .replace('Left', '←')
    .replace('Right', '→')
    .replace('Up', '↑')
    .replace('Down', '↓')
    .replaceAll(/(?<=.)\+/g, ' ')
    .replace('Delete', 'Del')
