// Landmarks said: "cue “here we go” in verse 2, bar 3 on 4", "stop time in the bridge, bar 5", "guitar 2
// comes in on a cue in the last chorus".
import { barStarts } from '../document/form'
import type { LANDMARKS, Section, Spot } from '../document/schema'
import { tickOfCount } from '../time/meter'
import { partsNamed, plainWords, type FormContext } from './form-names'
import { namesOf, refused, sectionsOr, understood, type FormReading } from './form-reading'

type Landmark = (typeof LANDMARKS)[number]

const SAID: readonly (readonly [kind: Landmark, words: RegExp])[] = [
  ['stop time', /\b(stop[- ]time|everybody stops|everyone stops|the band stops)\b/],
  ['cued entry', /\b(comes? in|enters?|entry) on (a|the|his|her|their) cue\b|\bcued entry\b/],
  ['partial return', /\b(comes back|returns) (only )?in part\b|\bpartial return\b/],
  ['cue words', /^(the )?cue( words?)?\b/],
]
/** Words a person hears stand in quotation marks, in the letters they are typed in. */
const QUOTED = /["“«]([^"”»]+)["”»]/

/** The kind of landmark a call speaks of; undefined for none. */
const landmarkSaid = (words: string): Landmark | undefined => SAID.find(([, said]) => said.test(words))?.[0]

const quotedIn = (call: string): string => QUOTED.exec(call)?.[1]?.trim() ?? ''

/** The bar and count that were said, in ticks of the section; the first one of the section for none. */
function placeSaid(words: string, section: Section): number | undefined {
  const bar = Number(/\bbar (\d{1,4})\b/.exec(words)?.[1] ?? 1) - 1
  const start = barStarts(section)[bar]
  const meter = section.bars[bar]?.meter
  if (start === undefined || !meter) return undefined
  const count = /\bon (?:the )?(and of |& of )?(\d{1,2})\b/.exec(words)
  if (!count) return start
  const at = tickOfCount(meter, Number(count[2]), count[1] !== undefined)
  return at === undefined ? undefined : start + at
}

/** A landmark for a part, or for everybody. */
function landmarkSpot(
  { newId }: FormContext,
  section: Section,
  said: { landmark: Landmark; startTicks: number; text: string; partId: string | undefined },
): Spot {
  const { landmark, startTicks, text, partId } = said
  return {
    id: newId(),
    place: { sectionId: section.id, startTicks, ...(partId === undefined ? {} : { partId }) },
    text,
    done: false,
    kind: 'landmark',
    landmark,
    onSheet: true,
  }
}

/** A landmark: "cue “here we go” in verse 2, bar 3 on 4", "everybody stops in the bridge, bar 5". */
export function landmarkCall(call: string, words: string, context: FormContext): FormReading | undefined {
  const kind = landmarkSaid(words)
  if (!kind) return undefined
  const assumed: string[] = []
  const text = quotedIn(call)
  if (kind === 'cue words' && !text)
    return refused(call, 'Which words? Put them in quotation marks: cue “now” here.')
  // What is quoted may name sections and counts of its own: the place is said around it.
  const around = plainWords(call.replace(QUOTED, ' '))
  const sections = sectionsOr(around, context, assumed)
  if (!sections.length)
    return refused(call, 'Where is that? Say the section: stop time in the bridge, bar 5.')
  const [part] = partsNamed(around, context)
  const spots = sections.flatMap((section) => {
    const startTicks = placeSaid(around, section)
    return startTicks === undefined
      ? []
      : [landmarkSpot(context, section, { landmark: kind, startTicks, text, partId: part?.id })]
  })
  if (spots.length < sections.length)
    return refused(call, `There is no such bar or count in ${namesOf(sections)}.`)
  const bar = /\bbar (\d+)/.exec(around)?.[1] ?? '1'
  const who = part ? `${part.name}, ` : ''
  const says = `${who}${kind}${text ? ` “${text}”` : ''} in ${namesOf(sections)}, bar ${bar}`
  return understood(says, { spots }, assumed)
}
