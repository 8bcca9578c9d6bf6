// Paints sheet pages into a real vector PDF. The fonts are embedded; music signs come from their own small
// face, so runs of text are split there.
import type { jsPDF } from 'jspdf'
import type { Primitive, Role } from '#core/engrave/primitives'
import type { SheetPage } from '#core/engrave/sheet-blocks'

const INK: Record<Role, [number, number, number]> = {
  ink: [28, 22, 19],
  quiet: [93, 83, 75],
  rule: [201, 191, 176],
  action: [28, 22, 19],
  evidence: [93, 83, 75],
  attention: [28, 22, 19],
  selection: [241, 236, 226],
  wood: [241, 236, 226],
  paper: [255, 255, 255],
}
const FACES = ['text', 'text-bold', 'mono', 'heading', 'signs', 'signs-bold'] as const
const SIGNS = /[♩♭♮♯←-↓≈]+/
/** Font sizes are in millimetres; PDF wants points. */
const POINTS_PER_MM = 72 / 25.4

async function fetchFont(name: string): Promise<Uint8Array> {
  const answer = await fetch(`/fonts/${name}.ttf`)
  if (!answer.ok) throw new Error(`font ${name} is missing`)
  return new Uint8Array(await answer.arrayBuffer())
}

function base64(bytes: Uint8Array): string {
  let binary = ''
  for (let at = 0; at < bytes.length; at += 8192)
    binary += String.fromCharCode(...bytes.subarray(at, at + 8192))
  return btoa(binary)
}

const ANCHORS = { start: 0, middle: 0.5, end: 1 }

function faceOf({ face }: { face: string }, bold: boolean): string {
  if (face === 'heading') return 'heading'
  if (bold) return 'text-bold'
  return face === 'mono' ? 'mono' : 'text'
}

type Shape<K extends Primitive['kind']> = Extract<Primitive, { kind: K }>

/** Sets a text in runs: signs of music from a face of their own. */
function drawText(pdf: jsPDF, shape: Shape<'text'>): void {
  const bold = shape.bold || shape.face === 'heading'
  const base = faceOf(shape, bold)
  const signs = bold ? 'signs-bold' : 'signs'
  pdf.setFontSize(shape.size * POINTS_PER_MM)
  const runs = shape.text
    .split(new RegExp(`(${SIGNS.source})`))
    .filter(Boolean)
    .map((value) => {
      const face = SIGNS.test(value) ? signs : base
      pdf.setFont(face)
      return { value, face, width: pdf.getTextWidth(value) }
    })
  const total = runs.reduce((sum, run) => sum + run.width, 0)
  let x = shape.x - total * ANCHORS[shape.anchor]
  if (shape.halo) {
    pdf.setFillColor(255, 255, 255)
    pdf.rect(x - 0.25, shape.y - shape.size * 0.78, total + 0.5, shape.size * 0.86, 'F')
  }
  pdf.setTextColor(...INK[shape.role])
  for (const run of runs) {
    pdf.setFont(run.face)
    pdf.text(run.value, x, shape.y)
    x += run.width
  }
}

function stroked(pdf: jsPDF, shape: { role: Role; width: number; dashed?: boolean }): void {
  pdf.setDrawColor(...INK[shape.role])
  pdf.setLineWidth(shape.width)
  pdf.setLineDashPattern(shape.dashed ? [0.6, 0.6] : [], 0)
}

/** A quadratic curve as the cubic one that it is. */
function drawCurve(pdf: jsPDF, shape: Shape<'curve'>): void {
  stroked(pdf, { role: shape.role, width: shape.width })
  const { x1, y1, cx, cy, x2, y2 } = shape
  const towards = (from: number, control: number): number => from + (2 / 3) * (control - from)
  const points = [towards(x1, cx), towards(y1, cy), towards(x2, cx), towards(y2, cy), x2, y2]
  const steps = points.map((value, index) => value - (index % 2 === 0 ? x1 : y1))
  pdf.lines([steps], x1, y1, [1, 1], 'S')
}

function drawPolygon(pdf: jsPDF, { fill, points }: Shape<'polygon'>): void {
  pdf.setFillColor(...INK[fill])
  const [x = 0, y = 0] = points
  const steps = Array.from({ length: points.length / 2 - 1 }, (_, index): [number, number] => {
    const at = 2 * index + 2
    return [points[at]! - points[at - 2]!, points[at + 1]! - points[at - 1]!]
  })
  pdf.lines(steps, x, y, [1, 1], 'F', true)
}

function drawSolid(pdf: jsPDF, shape: Shape<'circle'> | Shape<'rect'>): void {
  const outlined = shape.fill ? 'FD' : 'S'
  const style = shape.stroke ? outlined : 'F'
  if (shape.fill) pdf.setFillColor(...INK[shape.fill])
  if (shape.stroke)
    stroked(pdf, { role: shape.stroke, width: shape.kind === 'circle' ? shape.radius * 0.25 : 0.2 })
  if (shape.kind === 'circle') pdf.circle(shape.x, shape.y, shape.radius, style)
  else if (shape.width > 0) pdf.rect(shape.x, shape.y, shape.width, shape.height, style)
}

function draw(pdf: jsPDF, shape: Primitive): void {
  if (shape.kind === 'text') drawText(pdf, shape)
  else if (shape.kind === 'curve') drawCurve(pdf, shape)
  else if (shape.kind === 'polygon') drawPolygon(pdf, shape)
  else if (shape.kind === 'line') {
    stroked(pdf, shape)
    pdf.line(shape.x1, shape.y1, shape.x2, shape.y2)
  } else drawSolid(pdf, shape)
}

/** The sheet as a PDF, its texts as text in the faces of the page. */
export async function sheetPdf(
  pages: readonly SheetPage[],
  title: string,
  loadFont: (name: string) => Promise<Uint8Array> = fetchFont,
): Promise<Uint8Array> {
  const [{ jsPDF }, ...fonts] = await Promise.all([import('jspdf'), ...FACES.map(loadFont)])
  const first = pages[0]!
  const pdf = new jsPDF({ unit: 'mm', format: [first.width, first.height], compress: true })
  pdf.setProperties({ title, creator: 'Synchorda' })
  FACES.forEach((name, index) => {
    pdf.addFileToVFS(`${name}.ttf`, base64(fonts[index]!))
    pdf.addFont(`${name}.ttf`, name, 'normal')
  })
  pages.forEach((page, index) => {
    if (index > 0) pdf.addPage([page.width, page.height])
    for (const shape of page.primitives) draw(pdf, shape)
  })
  return new Uint8Array(pdf.output('arraybuffer'))
}
