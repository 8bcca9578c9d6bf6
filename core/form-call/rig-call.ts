// A rig said: "rig of guitar 1 in the chorus: bridge pickup, crunch, delay dotted eighth 3 repeats, octave
// below, with the pick". What is not known stays as it was said.
import { STRIKES, type Effect, type Rig } from '../document/schema'
import { DELAY_VALUES } from '../timeline/rig'
import { partsNamed, plainWords, sectionsNamed, type FormContext } from './form-names'
import { namesOf, partHere, refused, understood, type FormReading } from './form-reading'

/** "rig of …: …": who and where, and the rig. Undefined for a call that is none. */
function rigSaid(call: string): { of: string; rig: string } | undefined {
  const match = /^\s*(?:the )?rig\b([^:]*):(.+)$/is.exec(call)
  return match ? { of: match[1]!.toLowerCase().trim(), rig: match[2]!.trim() } : undefined
}

const KINDS: readonly (readonly [kind: Effect['kind'], words: RegExp])[] = [
  ['delay', /\b(delay|echo|repeats?)\b/],
  ['octave', /\boctaves?\b/],
  ['filter', /\b(filter|cocked)\b/],
  ['compressor', /\b(compressor|compression|compressed)\b/],
  ['drive', /\b(drive|overdrive|distortion|fuzz|boost)\b/],
  ['modulation', /\b(modulation|chorus effect|phaser|flanger|tremolo|vibrato|rotary)\b/],
  ['reverb', /\b(reverb|room|hall|spring)\b/],
]

/** Longest names first: "dotted eighth" before "eighth". */
const VALUES = DELAY_VALUES.toSorted((a, b) => b.title.length - a.title.length)
function delayFacts(words: string): Partial<Effect> {
  const value = VALUES.find(({ title }) => words.includes(title))
  const repeats = Number(/(\d{1,2}) repeats?\b/.exec(words)?.[1] ?? 0)
  return {
    ...(value ? { delayTicks: value.ticks } : {}),
    ...(repeats >= 1 && repeats <= 12 ? { repeats } : {}),
  }
}
function octaveFacts(words: string): Partial<Effect> {
  const octaves = /\b(2|two) octaves\b/.test(words) ? 24 : 12
  return { semitones: /\b(above|up|higher)\b/.test(words) ? octaves : -octaves }
}
function filterFacts(words: string): Partial<Effect> {
  const hertz = Number(/(\d{3,5}) ?(hz|hertz)\b/.exec(words)?.[1] ?? 0)
  return hertz >= 100 && hertz <= 12_000 ? { cutoffHz: hertz } : {}
}
const FACTS: Partial<Record<Effect['kind'], (words: string) => Partial<Effect>>> = {
  delay: delayFacts,
  octave: octaveFacts,
  filter: filterFacts,
}

const KNOB = new RegExp(
  '^(?:its |with )?([a-z][a-z ]{0,28}?) (?:at )?' +
    "(?:(half past )?([0-9]{1,2})(?: o['’]?clock)?|all the way (up|down))$",
)

/** "mix 3 o'clock", "tone half past 9", "depth all the way up": a knob of the effect before it. */
function knobSaid(words: string): Effect['knobs'][number] | undefined {
  const match = KNOB.exec(words)
  if (!match) return undefined
  const [, name, half, hour, way] = match
  if (hour === undefined) return { name: name!, clock: way === 'up' ? 17 : 7 }
  const said = Number(hour) + (half ? 0.5 : 0)
  const clock = said < 7 ? said + 12 : said
  return clock >= 7 && clock <= 17 ? { name: name!, clock } : undefined
}

function strikeSaid(words: string): Rig['strike'] {
  const said = words.replace(/^(played )?(with )?(the |a |his |her )?/, '')
  return STRIKES.find((strike) => strike === said)
}

/** One phrase of the rig put on it. */
function withPhrase(rig: Rig, phrase: string, newId: () => string): Rig {
  const words = phrase.toLowerCase()
  const strike = strikeSaid(words)
  if (strike) return { ...rig, strike }
  const pickup = /^(?:the |on the )?(.+?) pick-?up$/.exec(words)?.[1]
  if (pickup) return { ...rig, pickup }
  if (/\bfeed(s|ing)? ?back\b/.test(words)) return { ...rig, feedback: true }
  const last = rig.effects.at(-1)
  const knob = last ? knobSaid(words) : undefined
  if (last && knob)
    return { ...rig, effects: [...rig.effects.slice(0, -1), { ...last, knobs: [...last.knobs, knob] }] }
  const kind = KINDS.find(([, said]) => said.test(words))?.[0]
  if (!kind) {
    const gain = words.replace(/^gain (at )?/, '')
    return rig.gain ? { ...rig, effects: [...rig.effects, effect('other', phrase, newId)] } : { ...rig, gain }
  }
  return {
    ...rig,
    effects: [...rig.effects, { ...effect(kind, saidBeside(kind, phrase), newId), ...FACTS[kind]?.(words) }],
  }
}
const effect = (kind: Effect['kind'], words: string, newId: () => string): Effect => ({
  id: newId(),
  kind,
  words,
  knobs: [],
})
/** What is read as numbers of an effect; the rest of its phrase is kept in words. */
const READ: Partial<Record<Effect['kind'], RegExp>> = {
  delay: new RegExp(
    `\\b(delay|echo|${VALUES.map(({ title }) => title).join('|')}|\\d{1,2} repeats?)\\b`,
    'gi',
  ),
  octave: /\b(an|one|1|two|2|octaves?|above|below|up|down|higher|lower)\b/gi,
  filter: /\b(fixed|filter|(at )?\d{3,5} ?(hz|hertz))\b/gi,
}
const saidBeside = (kind: Effect['kind'], phrase: string): string =>
  phrase
    .replaceAll(READ[kind] ?? /$^/g, ' ')
    .replaceAll(/\s+/g, ' ')
    .trim()

const MOST_EFFECTS = 12
/** The rig that was said, phrase by phrase; undefined for nothing or more than a rig holds. */
function readRig(text: string, newId: () => string): Rig | undefined {
  const phrases = text
    .split(/[,;]/)
    .map((phrase) => phrase.trim().slice(0, 120))
    .filter(Boolean)
  const rig = phrases.reduce<Rig>((now, phrase) => withPhrase(now, phrase, newId), {
    pickup: '',
    gain: '',
    effects: [],
  })
  return phrases.length === 0 || rig.effects.length > MOST_EFFECTS ? undefined : rig
}

/** A rig: "rig of guitar 1 in the chorus: bridge pickup, crunch, delay dotted eighth". */
export function rigCall(call: string, context: FormContext): FormReading | undefined {
  const said = rigSaid(call)
  if (!said) return undefined
  const assumed: string[] = []
  const of = plainWords(said.of)
  const named = partsNamed(of, context)
  const own = partHere(context)
  const parts = named.length || !own ? named : [own]
  if (!named.length && own) assumed.push(`${own.name}, where the cursor is`)
  const rig = readRig(said.rig, context.newId)
  if (!parts.length || !rig)
    return refused(call, 'Whose rig, and what is it? Rig of Guitar 1: bridge pickup, crunch, delay eighth.')
  const { found } = sectionsNamed(of, context)
  const places = found.length ? found.map(({ id }) => ({ sectionId: id })) : [{}]
  const changes = parts.flatMap((part) => places.map((place) => ({ partId: part.id, ...place, rig })))
  const where = found.length ? ` in ${namesOf(found)}` : ''
  return understood(`Rig of ${namesOf(parts)}${where}: ${said.rig}`, { rigs: changes }, assumed)
}
