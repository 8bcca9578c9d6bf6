// Placements dragged from cell to cell with a mouse, a pen or a finger.
import interact from 'interactjs'

/** With a finger only the handle drags: everywhere else it scrolls the page. */
const HANDLE = '[data-handle]'

interface Dropped {
  placementId: string
  row: number
  column: number
  copying: boolean
}

function moveBy(element: HTMLElement, dx: number, dy: number): void {
  const x = Number(element.dataset.dragX ?? 0) + dx
  const y = Number(element.dataset.dragY ?? 0) + dy
  Object.assign(element.dataset, { dragX: String(x), dragY: String(y) })
  element.style.transform = `translate(${x}px, ${y}px)`
}
function putBack(element: HTMLElement): void {
  Reflect.deleteProperty(element.dataset, 'dragX')
  Reflect.deleteProperty(element.dataset, 'dragY')
  element.style.transform = ''
  element.classList.remove('dragged')
}

/**
 * Lets what carries `data-placement` inside the table be dragged onto what carries `data-row` and
 * `data-column`. The element returns to its place; what the drop means is decided by `onDrop`.
 */
export function useDragPlacements(
  table: Ref<HTMLElement | undefined>,
  onDrop: (what: Dropped) => void,
): void {
  let drags: ReturnType<typeof interact> | undefined
  let drops: ReturnType<typeof interact> | undefined
  const stop = (): void => {
    drags?.unset()
    drops?.unset()
  }
  watch(table, (element) => {
    stop()
    if (!element) return
    const context = { context: element }
    drags = interact('[data-placement]', context).draggable({
      ...(matchMedia('(pointer: coarse)').matches ? { allowFrom: HANDLE } : {}),
      listeners: {
        start: ({ target }: { target: HTMLElement }) => target.classList.add('dragged'),
        move: ({ target, dx, dy }: { target: HTMLElement; dx: number; dy: number }) => moveBy(target, dx, dy),
        end: ({ target }: { target: HTMLElement }) => putBack(target),
      },
    })
    drops = interact('[data-row]', context).dropzone({
      accept: '[data-placement]',
      overlap: 'pointer',
      ondragenter: ({ target }: { target: HTMLElement }) => target.classList.add('drop-here'),
      ondragleave: ({ target }: { target: HTMLElement }) => target.classList.remove('drop-here'),
      ondrop: (event: {
        target: HTMLElement
        relatedTarget: HTMLElement
        dragEvent: { ctrlKey: boolean; altKey: boolean; metaKey: boolean }
      }) => {
        const { target, relatedTarget, dragEvent } = event
        target.classList.remove('drop-here')
        onDrop({
          placementId: relatedTarget.dataset.placement!,
          row: Number(target.dataset.row),
          column: Number(target.dataset.column),
          copying: dragEvent.ctrlKey || dragEvent.altKey || dragEvent.metaKey,
        })
      },
    })
  })
  onBeforeUnmount(stop)
}
