// XML as a tree of small nodes, written and read by the library in the order of the file.
import { XMLBuilder, XMLParser, XMLValidator } from 'fast-xml-parser'
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

/**
 * A document as nodes. Refused: no XML, broken XML, one that defines entities of its own (they could unfold
 * without end), one too large.
 */
export function readXml(text: string, what: string): Result<XmlNode> {
  const asText = text.startsWith('\uFEFF') ? text.slice(1) : text
  if (asText.length > MOST_CHARACTERS) return refuse('xml', `This ${what} is too large: export fewer parts.`)
  if (/<!ENTITY/i.test(asText) || /<!DOCTYPE[^>]*\[/i.test(asText))
    return refuse('xml', `This ${what} defines entities of its own, which is not read: export it anew.`)
  if (deeperThan(asText, MOST_DEPTH)) return refuse('xml', `This ${what} is damaged: export it anew.`)
  const broken = `This ${what} is no sound XML: export it anew.`
  try {
    if (XMLValidator.validate(asText) !== true) return refuse('xml', broken)
    const parsed = parser().parse(asText) as Raw[]
    const root = parsed.map(fromRaw).find((node) => node && !node.name.startsWith('?'))
    return root ? ok(root) : refuse('xml', broken)
  } catch {
    return refuse('xml', broken)
  }
}

const parser = (): XMLParser =>
  new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    parseTagValue: false,
    parseAttributeValue: false,
    trimValues: true,
    // The five of XML itself and characters by number; files with others are refused above.
    processEntities: true,
    htmlEntities: false,
  })

/** Whether elements stand deeper in each other than any score has them. */
function deeperThan(text: string, most: number): boolean {
  let depth = 0
  for (const [, closing, alone] of text.matchAll(/<(\/?)[A-Za-z][^<>]*?(\/?)>/g)) {
    if (closing) depth -= 1
    else if (!alone) depth += 1
    if (depth > most) return true
  }
  return false
}

function fromRaw(raw: Raw): XmlNode | undefined {
  const name = Object.keys(raw).find((key) => key !== ATTRIBUTES)
  if (name === undefined || name === TEXT) return undefined
  const inside = (Array.isArray(raw[name]) ? raw[name] : []) as Raw[]
  return {
    name,
    attributes: (raw[ATTRIBUTES] ?? {}) as Record<string, string>,
    children: inside.flatMap((child) => fromRaw(child) ?? []),
    text: inside.map((child) => (TEXT in child ? String(child[TEXT]) : '')).join(''),
  }
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
