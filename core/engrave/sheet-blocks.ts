// What the lesson sheet is made of: its paper, blocks in millimetres, and words broken into lines.
import type { Naming } from '../document/part-pitch'
import { line, text, type Primitive } from './primitives'

export const PAPERS = { A4: { width: 210, height: 297 }, Letter: { width: 215.9, height: 279.4 } } as const
export type Paper = keyof typeof PAPERS
export interface SheetOptions {
  paper: Paper
  partIds: readonly string[]
  naming: Naming
  strings: 'numbers' | 'letters'
  form: 'exact' | 'eased'
  /** One section only, and what is played in it. */
  sectionId?: string
  /** Of each part its grips only, or the scales its figures are in. */
  only?: 'grips' | 'scales'
  /** Necks and grips for a left hand that plucks. */
  leftHanded?: boolean
  /** Chords stand with their degree of the key. */
  numerals?: boolean
  /** One figure only. */
  figureId?: string
  /** What a student plays from, or all a teacher wants to see; the teacher’s where nothing is said. */
  reader?: 'student' | 'teacher'
}
export interface SheetPage {
  width: number
  height: number
  primitives: Primitive[]
}

/** Mean width of a character as a share of the size; enough to break lines, not to set them. */
const CHARACTER = 0.5

/** A stretch of the sheet that is not broken over pages. */
export interface Block {
  height: number
  primitives: Primitive[]
  keepWithNext?: boolean
  /** The heading it stands under: said again where it begins a page. */
  continues?: Block
  /** Of its height, air under it that may be less where that saves a page. */
  air?: number
}

/** Words in lines no wider than `width`, in text of a size. */
export function wrap(value: string, width: number, size: number): string[] {
  const most = Math.max(8, Math.floor(width / (size * CHARACTER)))
  return value.split(' ').reduce<string[]>(
    (lines, word) => {
      const last = lines.at(-1)!
      if (last && last.length + word.length + 1 > most) lines.push(word)
      else lines[lines.length - 1] = last ? `${last} ${word}` : word
      return lines
    },
    [''],
  )
}

const heading = (words: string, inner: number, size: number): Block => ({
  height: size + 3,
  keepWithNext: true,
  primitives: [
    text(0, size, words, size, { face: 'heading' }),
    line(0, size + 2, inner, size + 2, size / 24),
  ],
})

/** The name of a part where its pages begin. */
export const partHeading = (name: string, inner: number): Block => heading(name, inner, 6)
/** The same on a following page. */
export const continuedHeading = (name: string, inner: number): Block =>
  heading(`${name}, continued`, inner, 4)
