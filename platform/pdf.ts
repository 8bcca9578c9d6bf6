// Paints sheet pages into a real vector PDF. The fonts are embedded; music signs come from their own small
// face, so runs of text are split there.
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

async function fontBase64(name: string): Promise<string> {
  const answer = await fetch(`/fonts/${name}.ttf`)
  if (!answer.ok) throw new Error(`font ${name} is missing`)
  const bytes = new Uint8Array(await answer.arrayBuffer())
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

export async function sheetPdf(pages: readonly SheetPage[], title: string): Promise<Uint8Array> {
  const [{ jsPDF }, ...fonts] = await Promise.all([import('jspdf'), ...FACES.map(fontBase64)])
  const first = pages[0]!
  const pdf = new jsPDF({ unit: 'mm', format: [first.width, first.height], compress: true })
  pdf.setProperties({ title, creator: 'Synchorda' })
  FACES.forEach((name, index) => {
    pdf.addFileToVFS(`${name}.ttf`, fonts[index]!)
    pdf.addFont(`${name}.ttf`, name, 'normal')
  })
  const color = (role: Role): [number, number, number] => INK[role]

  function drawText(shape: Extract<Primitive, { kind: 'text' }>): void {
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
    pdf.setTextColor(...color(shape.role))
    for (const run of runs) {
      pdf.setFont(run.face)
      pdf.text(run.value, x, shape.y)
      x += run.width
    }
  }

  function draw(shape: Primitive): void {
    if (shape.kind === 'text') {
      drawText(shape)
      return
    }
    if (shape.kind === 'line') {
      pdf.setDrawColor(...color(shape.role))
      pdf.setLineWidth(shape.width)
      pdf.setLineDashPattern(shape.dashed ? [0.6, 0.6] : [], 0)
      pdf.line(shape.x1, shape.y1, shape.x2, shape.y2)
      return
    }
    if (shape.kind === 'curve') {
      pdf.setDrawColor(...color(shape.role))
      pdf.setLineWidth(shape.width)
      pdf.setLineDashPattern([], 0)
      // A quadratic curve as a cubic one.
      const c1 = [
        shape.x1 + (2 / 3) * (shape.cx - shape.x1),
        shape.y1 + (2 / 3) * (shape.cy - shape.y1),
      ] as const
      const c2 = [
        shape.x2 + (2 / 3) * (shape.cx - shape.x2),
        shape.y2 + (2 / 3) * (shape.cy - shape.y2),
      ] as const
      pdf.lines(
        [
          [
            c1[0] - shape.x1,
            c1[1] - shape.y1,
            c2[0] - shape.x1,
            c2[1] - shape.y1,
            shape.x2 - shape.x1,
            shape.y2 - shape.y1,
          ],
        ],
        shape.x1,
        shape.y1,
        [1, 1],
        'S',
      )
      return
    }
    if (shape.kind === 'polygon') {
      pdf.setFillColor(...color(shape.fill))
      const [x = 0, y = 0] = shape.points
      pdf.lines(
        shape.points.reduce<[number, number][]>(
          (steps, value, index, all) =>
            index % 2 === 0 && index > 0
              ? [...steps, [value - all[index - 2]!, all[index + 1]! - all[index - 1]!]]
              : steps,
          [],
        ),
        x,
        y,
        [1, 1],
        'F',
        true,
      )
      return
    }
    const stroked = shape.fill ? 'FD' : 'S'
    const style = shape.stroke ? stroked : 'F'
    if (shape.fill) pdf.setFillColor(...color(shape.fill))
    if (shape.stroke) {
      pdf.setDrawColor(...color(shape.stroke))
      pdf.setLineWidth(shape.kind === 'circle' ? shape.radius * 0.25 : 0.2)
    }
    if (shape.kind === 'circle') pdf.circle(shape.x, shape.y, shape.radius, style)
    else if (shape.width > 0) pdf.rect(shape.x, shape.y, shape.width, shape.height, style)
  }

  pages.forEach((page, index) => {
    if (index > 0) pdf.addPage([page.width, page.height])
    page.primitives.forEach(draw)
  })
  return new Uint8Array(pdf.output('arraybuffer'))
}
