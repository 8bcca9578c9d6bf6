// Pages of a sheet as pictures: SVG with its typefaces inside, PNG at print size; several pages in one zip.
import { strToU8, zipSync } from 'fflate'
import { download } from './files'

const FACES = [
  { file: 'text', family: 'Atkinson Hyperlegible Next', weight: 400 },
  { file: 'text-bold', family: 'Atkinson Hyperlegible Next', weight: 700 },
  { file: 'mono', family: 'Atkinson Hyperlegible Mono', weight: 400 },
  { file: 'heading', family: 'Bricolage Grotesque', weight: 700 },
] as const
/** Pixels a millimetre: 300 a dpi inch. */
const PIXELS = 300 / 25.4

async function dataUrl(path: string): Promise<string> {
  const answer = await fetch(path)
  if (!answer.ok) throw new Error(`${path} is missing`)
  const blob = await answer.blob()
  return new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(String(reader.result))
    reader.onerror = () => reject(reader.error ?? new Error(path))
    reader.readAsDataURL(blob)
  })
}

/** The typefaces of the sheet as a style sheet that needs nothing else. */
export async function fontFaces(): Promise<string> {
  const rules = await Promise.all(
    FACES.map(async ({ file, family, weight }) => {
      const url = await dataUrl(`/fonts/${file}.ttf`)
      return `@font-face{font-family:'${family}';font-weight:${weight};src:url(${url})}`
    }),
  )
  return rules.join('')
}

async function png(svg: string): Promise<Uint8Array> {
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }))
  try {
    const image = new Image()
    image.src = url
    await image.decode()
    const [, width = '210', height = '297'] = /width="([\d.]+)mm" height="([\d.]+)mm"/.exec(svg) ?? []
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(Number(width) * PIXELS)
    canvas.height = Math.round(Number(height) * PIXELS)
    canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height)
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'))
    if (!blob) throw new Error('no picture')
    return new Uint8Array(await blob.arrayBuffer())
  } finally {
    URL.revokeObjectURL(url)
  }
}

const TYPES = { svg: 'image/svg+xml', png: 'image/png' } as const

/** One page as it is, several in a zip. Throws when the browser makes no picture. */
export async function savePictures(
  kind: 'svg' | 'png',
  svgs: readonly string[],
  name: string,
): Promise<void> {
  const files: Uint8Array[] = []
  for (const svg of svgs) files.push(kind === 'svg' ? strToU8(svg) : await png(svg))
  const [first, ...more] = files
  if (!first) return
  if (!more.length) {
    download(first, `${name}.${kind}`, TYPES[kind])
    return
  }
  const entries = files.map((bytes, index) => [`${name}-${index + 1}.${kind}`, bytes] as const)
  download(zipSync(Object.fromEntries(entries), { level: 6 }), `${name}-${kind}.zip`, 'application/zip')
}
