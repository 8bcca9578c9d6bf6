/** Offers bytes as a download. */
export function download(bytes: Uint8Array | Blob, name: string, type: string): void {
  const url = URL.createObjectURL(
    bytes instanceof Blob ? bytes : new Blob([bytes as Uint8Array<ArrayBuffer>], { type }),
  )
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** A title as a file name. */
export const fileName = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'song'

export const randomId = (): string => crypto.randomUUID().replaceAll('-', '').slice(0, 14)
