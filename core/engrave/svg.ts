// Shapes as the text of an SVG file, for other programs: its own colours, texts as text in faces that are
// everywhere, sizes in millimetres.
import type { Primitive, Role } from './primitives'
import type { SheetPage } from './sheet-blocks'

const COLOUR: Record<Role, string> = {
  ink: '#1c1613',
  quiet: '#5d534b',
  rule: '#c9bfb0',
  action: '#1c1613',
  evidence: '#5d534b',
  attention: '#1c1613',
  selection: '#f1ece2',
  wood: '#f1ece2',
  paper: '#ffffff',
}
const FACE = {
  text: "'Atkinson Hyperlegible Next', 'DejaVu Sans', Arial, sans-serif",
  mono: "'Atkinson Hyperlegible Mono', 'DejaVu Sans Mono', monospace",
  heading: "'Bricolage Grotesque', 'DejaVu Sans', Arial, sans-serif",
} as const

const escaped = (value: string): string =>
  value.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')
const number = (value: number): string => String(Math.round(value * 1000) / 1000)

type Attributes = Record<string, string | number | undefined>
function tag(name: string, attributes: Attributes, inside?: string): string {
  const written = Object.entries(attributes)
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => ` ${key}="${typeof value === 'number' ? number(value) : escaped(value!)}"`)
    .join('')
  return inside === undefined ? `<${name}${written}/>` : `<${name}${written}>${inside}</${name}>`
}

const stroke = (role: Role, width: number): Attributes => ({ stroke: COLOUR[role], 'stroke-width': width })
const solid = (fill: Role | undefined, outline: Role | undefined, width: number): Attributes => ({
  fill: fill ? COLOUR[fill] : 'none',
  ...(outline ? stroke(outline, width) : {}),
})

function shapeTag(shape: Primitive): string {
  switch (shape.kind) {
    case 'line': {
      const { x1, y1, x2, y2, role, width, dashed } = shape
      return tag('line', {
        x1,
        y1,
        x2,
        y2,
        ...stroke(role, width),
        'stroke-dasharray': dashed ? '0.6' : undefined,
      })
    }
    case 'rect': {
      const { x, y, width, height, fill, stroke: outline, radius } = shape
      return tag('rect', { x, y, width, height, rx: radius, ...solid(fill, outline, 0.2) })
    }
    case 'circle': {
      const { x, y, radius, fill, stroke: outline } = shape
      return tag('circle', { cx: x, cy: y, r: radius, ...solid(fill, outline, radius * 0.25) })
    }
    case 'curve': {
      const { x1, y1, cx, cy, x2, y2, role, width } = shape
      const d = `M${[x1, y1].map(number).join(' ')}Q${[cx, cy, x2, y2].map(number).join(' ')}`
      return tag('path', { d, fill: 'none', ...stroke(role, width) })
    }
    case 'polygon':
      return tag('polygon', { points: shape.points.map(number).join(' '), fill: COLOUR[shape.fill] })
    case 'text':
      return textTag(shape)
  }
}

function textTag(shape: Extract<Primitive, { kind: 'text' }>): string {
  const { x, y, size, role, anchor, face, bold, halo } = shape
  const heavy = bold || face === 'heading'
  return tag(
    'text',
    {
      x,
      y,
      'font-size': size,
      'font-family': FACE[face],
      'font-weight': heavy ? 700 : undefined,
      'text-anchor': anchor === 'start' ? undefined : anchor,
      fill: COLOUR[role],
      ...(halo ? { stroke: '#ffffff', 'stroke-width': size * 0.28, 'paint-order': 'stroke' } : {}),
    },
    escaped(shape.text),
  )
}

/** One page of a sheet as an SVG file; `faces` is a style sheet with its typefaces, where they go along. */
export function pageSvg({ width, height, primitives }: SheetPage, title: string, faces = ''): string {
  return `${tag(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      width: `${number(width)}mm`,
      height: `${number(height)}mm`,
      viewBox: `0 0 ${number(width)} ${number(height)}`,
    },
    [
      tag('title', {}, escaped(title)),
      ...(faces ? [tag('style', {}, faces)] : []),
      tag('rect', { x: 0, y: 0, width, height, fill: '#ffffff' }),
      ...primitives.map(shapeTag),
    ].join('\n'),
  )}\n`
}
