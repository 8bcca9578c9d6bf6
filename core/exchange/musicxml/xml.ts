// XML as a tree of small nodes, written and read by libraries in the order of the file.
import { XMLBuilder } from 'fast-xml-parser'
import { SaxesParser } from 'saxes'
import { ok, refuse, type Result } from '../../result'

export interface XmlNode {
  name: string
  attributes: Readonly<Record<string, string>>
  children: readonly XmlNode[]
  text: string
}

/** An element with children or a text. */
export function element(
  name: string,
  content: readonly (XmlNode | undefined)[] | string | number = [],
  attributes: Record<string, string | number> = {},
): XmlNode {
  const texts = Object.fromEntries(Object.entries(attributes).map(([key, value]) => [key, String(value)]))
  const holds = typeof content === 'string' || typeof content === 'number'
  return {
    name,
    attributes: texts,
    children: holds ? [] : content.flatMap((child) => child ?? []),
    text: holds ? String(content) : '',
  }
}

// The library's own shape of an ordered document: one key with the children, ":@" with the attributes.
type Raw = Record<string, unknown>
const ATTRIBUTES = ':@'
const TEXT = '#text'

function toRaw({ name, attributes, children, text }: XmlNode): Raw {
  const inside = text === '' ? children.map(toRaw) : [{ [TEXT]: text }]
  return Object.keys(attributes).length ? { [name]: inside, [ATTRIBUTES]: attributes } : { [name]: inside }
}

/** What XML cannot hold at all is left out: control characters that no reader may see. */
// eslint-disable-next-line no-control-regex
const FORBIDDEN = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g

export function writeXml(root: XmlNode, doctype: string): string {
  const builder = new XMLBuilder({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    format: true,
    indentBy: ' ',
    suppressEmptyNode: true,
  })
  const body = String(builder.build([toRaw(root)])).trim()
  return `<?xml version="1.0" encoding="UTF-8"?>\n${doctype}\n${body}\n`.replaceAll(FORBIDDEN, '')
}

const MOST_CHARACTERS = 40_000_000
const MOST_DEPTH = 100
/** A large score for many parts has a third of it. */
const MOST_TAGS = 2_000_000
const MOST_TAG_CHARACTERS = 20_000
const MOST_ATTRIBUTES = 100
const MOST_INSTRUCTIONS = 100
/** Read at a time: what is wrong is noticed before all of it was read. */
const PIECE = 1 << 16

/** Why nothing of a text is read, found by one quick look; undefined when it may be. */
function textProblem(text: string, what: string): string | undefined {
  const large = `This ${what} is too large: export fewer parts.`
  const broken = `This ${what} is damaged: export it anew.`
  if (text.length > MOST_CHARACTERS) return large
  let tags = 0
  let instructions = 0
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', at + 1)) {
    tags += 1
    if (tags > MOST_TAGS) return large
    const next = text[at + 1]
    if (next === '?' && ++instructions > MOST_INSTRUCTIONS) return broken
    // Remarks and texts may be long; a tag may not.
    if (next === '!') continue
    const end = text.indexOf('>', at)
    if (end < 0 || end - at > MOST_TAG_CHARACTERS) return broken
  }
  return undefined
}

/**
 * A document as nodes, without the elements in `skip` and what is in them. Refused: no XML, broken XML, one
 * that defines entities of its own (they could unfold without end), one too large.
 */
export function readXml(text: string, what: string, skip: ReadonlySet<string> = NONE): Result<XmlNode> {
  const asText = text.startsWith('\uFEFF') ? text.slice(1) : text
  const problem = textProblem(asText, what)
  if (problem) return refuse('xml', problem)
  if (/<!ENTITY/i.test(asText) || /<!DOCTYPE[^>]*\[/i.test(asText))
    return refuse('xml', `This ${what} defines entities of its own, which is not read: export it anew.`)
  try {
    const root = parsed(asText, skip)
    return root ? ok(root) : refuse('xml', `This ${what} is no sound XML: export it anew.`)
  } catch {
    return refuse('xml', `This ${what} is no sound XML: export it anew.`)
  }
}
const NONE: ReadonlySet<string> = new Set()
/** Most elements have none of them: one empty thing serves all. */
const NO_CHILDREN: XmlNode[] = []
const NO_ATTRIBUTES: Record<string, string> = {}

interface Open {
  name: string
  attributes: Record<string, string>
  children: XmlNode[]
  text: string
}

/** Throws where the text is no sound XML. */
function parsed(text: string, skip: ReadonlySet<string>): XmlNode | undefined {
  const parser = new SaxesParser()
  const open: Open[] = []
  let root: XmlNode | undefined
  let skipped = 0
  parser.on('error', (error) => {
    throw error
  })
  parser.on('opentag', ({ name, attributes, isSelfClosing }) => {
    if (skipped > 0 || skip.has(name)) {
      // Its own closing is told too, also of one that closes itself.
      skipped += 1
      return
    }
    const names = Object.keys(attributes)
    if (open.length >= MOST_DEPTH || names.length > MOST_ATTRIBUTES) throw new RangeError('no score')
    open.push({
      name,
      attributes: names.length ? attributes : NO_ATTRIBUTES,
      children: isSelfClosing ? NO_CHILDREN : [],
      text: '',
    })
  })
  const take = (piece: string): void => {
    const at = open.at(-1)
    if (at && skipped === 0) at.text += piece
  }
  parser.on('text', take)
  parser.on('cdata', take)
  parser.on('closetag', () => {
    if (skipped > 0) {
      skipped -= 1
      return
    }
    const closed = open.pop()
    if (!closed) return
    const children = closed.children.length ? closed.children : NO_CHILDREN
    const node = { ...closed, children, text: closed.text.trim() }
    const parent = open.at(-1)
    if (parent) parent.children.push(node)
    else root = node
  })
  for (let at = 0; at < text.length; at += PIECE) parser.write(text.slice(at, at + PIECE))
  parser.close()
  return root
}

export const childOf = (node: XmlNode | undefined, name: string): XmlNode | undefined =>
  node?.children.find((child) => child.name === name)
export const childrenOf = (node: XmlNode | undefined, name: string): readonly XmlNode[] =>
  node?.children.filter((child) => child.name === name) ?? []
/** The text of a child, trimmed; empty where there is none. */
export const textOf = (node: XmlNode | undefined, name: string): string =>
  childOf(node, name)?.text.trim() ?? ''
/** The number in a child; undefined where there is none or it is no number. */
export function numberOf(node: XmlNode | undefined, name: string): number | undefined {
  const text = textOf(node, name)
  const value = Number(text)
  return text === '' || !Number.isFinite(value) ? undefined : value
}
