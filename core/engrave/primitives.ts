// What every view that draws music is made of: plain shapes with roles. Painters (SVG in the page, PDF)
// only translate them.

/**
 * ink: the music · quiet: secondary · rule: hairlines · action: chosen by the user · evidence: measured ·
 * attention: missing or wrong.
 */
export type Role =
  'ink' | 'quiet' | 'rule' | 'action' | 'evidence' | 'attention' | 'selection' | 'wood' | 'paper'

export type Primitive =
  | {
      kind: 'line'
      x1: number
      y1: number
      x2: number
      y2: number
      width: number
      role: Role
      dashed?: boolean
    }
  | {
      kind: 'rect'
      x: number
      y: number
      width: number
      height: number
      fill?: Role
      stroke?: Role
      radius?: number
    }
  | { kind: 'circle'; x: number; y: number; radius: number; fill?: Role; stroke?: Role }
  | {
      kind: 'curve'
      x1: number
      y1: number
      cx: number
      cy: number
      x2: number
      y2: number
      width: number
      role: Role
    }
  | { kind: 'polygon'; points: number[]; fill: Role }
  | {
      kind: 'text'
      x: number
      y: number
      text: string
      size: number
      role: Role
      anchor: 'start' | 'middle' | 'end'
      face: 'text' | 'mono' | 'heading'
      bold?: boolean
      halo?: boolean
    }

export const text = (
  x: number,
  y: number,
  value: string,
  size: number,
  options: Partial<Extract<Primitive, { kind: 'text' }>> = {},
): Primitive => ({
  kind: 'text',
  x,
  y,
  text: value,
  size,
  role: 'ink',
  anchor: 'start',
  face: 'text',
  ...options,
})
export const line = (
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  width: number,
  role: Role = 'ink',
): Primitive => ({ kind: 'line', x1, y1, x2, y2, width, role })

/** The same shapes moved. */
export function moved(primitives: readonly Primitive[], dx: number, dy: number): Primitive[] {
  return primitives.map((shape): Primitive => {
    switch (shape.kind) {
      case 'line':
        return { ...shape, x1: shape.x1 + dx, x2: shape.x2 + dx, y1: shape.y1 + dy, y2: shape.y2 + dy }
      case 'curve':
        return {
          ...shape,
          x1: shape.x1 + dx,
          x2: shape.x2 + dx,
          cx: shape.cx + dx,
          y1: shape.y1 + dy,
          y2: shape.y2 + dy,
          cy: shape.cy + dy,
        }
      case 'polygon':
        return { ...shape, points: shape.points.map((value, index) => value + (index % 2 === 0 ? dx : dy)) }
      default:
        return { ...shape, x: shape.x + dx, y: shape.y + dy }
    }
  })
}

/** The same shapes larger or smaller, about 0,0. */
export function scaled(primitives: readonly Primitive[], factor: number): Primitive[] {
  return primitives.map((shape): Primitive => {
    switch (shape.kind) {
      case 'line':
        return { ...shape, ...times(shape, factor, ['x1', 'x2', 'y1', 'y2', 'width']) }
      case 'curve':
        return { ...shape, ...times(shape, factor, ['x1', 'y1', 'cx', 'cy', 'x2', 'y2', 'width']) }
      case 'rect':
        return {
          ...shape,
          ...times(shape, factor, ['x', 'y', 'width', 'height']),
          ...(shape.radius === undefined ? {} : { radius: shape.radius * factor }),
        }
      case 'circle':
        return { ...shape, ...times(shape, factor, ['x', 'y', 'radius']) }
      case 'polygon':
        return { ...shape, points: shape.points.map((value) => value * factor) }
      case 'text':
        return { ...shape, ...times(shape, factor, ['x', 'y', 'size']) }
    }
  })
}
function times<K extends string>(
  shape: Record<K, number>,
  factor: number,
  keys: readonly K[],
): Record<K, number> {
  return Object.fromEntries(keys.map((key) => [key, shape[key] * factor])) as Record<K, number>
}

const OTHER_SIDE = { start: 'end', middle: 'middle', end: 'start' } as const

/** The same shapes with their sides exchanged over a width, words still readable. */
export function mirrored(primitives: readonly Primitive[], width: number): Primitive[] {
  return primitives.map((shape): Primitive => {
    switch (shape.kind) {
      case 'line':
        return { ...shape, x1: width - shape.x1, x2: width - shape.x2 }
      case 'curve':
        return { ...shape, x1: width - shape.x1, cx: width - shape.cx, x2: width - shape.x2 }
      case 'rect':
        return { ...shape, x: width - shape.x - shape.width }
      case 'polygon':
        return { ...shape, points: shape.points.map((value, at) => (at % 2 ? value : width - value)) }
      case 'circle':
        return { ...shape, x: width - shape.x }
      case 'text':
        return { ...shape, x: width - shape.x, anchor: OTHER_SIDE[shape.anchor] }
    }
  })
}
