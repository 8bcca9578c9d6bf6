// All marks a note or a stroke can bear. A new one is a file beside this one and a line in each list here;
// whatever draws, speaks, sounds or stores marks reads these lists.
import { z } from 'zod'
import { accent } from './accent'
import { arm } from './arm'
import { bend } from './bend'
import { choke } from './choke'
import { dead } from './dead'
import { ghost } from './ghost'
import { grace } from './grace'
import { hammerOn } from './hammer-on'
import { letRing } from './let-ring'
import type { CurvePoint, MarkDefinition } from './define-mark'
import { naturalHarmonic } from './natural-harmonic'
import { palmMute } from './palm-mute'
import { pinchedHarmonic } from './pinched-harmonic'
import { pullOff } from './pull-off'
import { rake } from './rake'
import { scrape } from './scrape'
import { slide } from './slide'
import { staccato } from './staccato'
import { tap } from './tap'
import { tremoloPicking } from './tremolo-picking'
import { trill } from './trill'
import { vibrato } from './vibrato'

export const markSchema = z.discriminatedUnion('kind', [
  hammerOn.schema,
  pullOff.schema,
  slide.schema,
  scrape.schema,
  bend.schema,
  vibrato.schema,
  trill.schema,
  naturalHarmonic.schema,
  pinchedHarmonic.schema,
  grace.schema,
  tap.schema,
  tremoloPicking.schema,
  rake.schema,
  ghost.schema,
  staccato.schema,
  choke.schema,
  dead.schema,
  letRing.schema,
  arm.schema,
  palmMute.schema,
  accent.schema,
])
export type Mark = z.infer<typeof markSchema>
export type MarkKind = Mark['kind']
/** A note or a stroke bears no more. */
export const MOST_MARKS = 10
/** What a stroke over a whole grip can bear. */
export const strokeMarkSchema = z.discriminatedUnion('kind', [
  accent.schema,
  dead.schema,
  choke.schema,
  staccato.schema,
  palmMute.schema,
  slide.schema,
])
export type StrokeMark = z.infer<typeof strokeMarkSchema>
/** What can hold over a stretch of a figure. */
export const spanMarkSchema = z.discriminatedUnion('kind', [palmMute.schema, letRing.schema])
export type SpanMark = z.infer<typeof spanMarkSchema>

const MARKS: { [Kind in MarkKind]: MarkDefinition<z.ZodType<Extract<Mark, { kind: Kind }>>> } = {
  accent,
  'hammer-on': hammerOn,
  'pull-off': pullOff,
  slide,
  scrape,
  bend,
  vibrato,
  trill,
  'natural harmonic': naturalHarmonic,
  'pinched harmonic': pinchedHarmonic,
  grace,
  tap,
  'tremolo picking': tremoloPicking,
  rake,
  ghost,
  staccato,
  choke,
  dead,
  'let ring': letRing,
  arm,
  'palm mute': palmMute,
}
/** The file of a mark's kind; its functions take marks of that kind, which this one is. */
const fileOf = (mark: Mark): MarkDefinition<z.ZodType<Mark>> =>
  MARKS[mark.kind] as unknown as MarkDefinition<z.ZodType<Mark>>

/** Drawn over the note. */
export const signOf = (mark: Mark): string | undefined => fileOf(mark).sign?.(mark)
/** Said after the fret. */
export const wordsOf = (mark: Mark, fret: number): string | undefined => fileOf(mark).words?.(mark, fret)
/** How the pitch of a note of these lengths moves under one mark. */
export const curveOf = (mark: Mark, lengthTicks: number, beatTicks: number): CurvePoint[] =>
  fileOf(mark).curve?.(mark, lengthTicks, beatTicks) ?? []
/** Marks the bench offers in a list. */
export const OFFERED_MARKS: readonly { name: string; mark: Mark }[] = Object.values(MARKS).flatMap(
  (file) => (file as unknown as MarkDefinition<z.ZodType<Mark>>).offered ?? [],
)
