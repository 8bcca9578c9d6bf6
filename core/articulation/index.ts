// All marks a note can bear. A new one is a file beside this one and a line in each list here; whatever
// draws, speaks, sounds or stores marks reads these lists.
import { z } from 'zod'
import { bar } from './bar'
import { bend } from './bend'
import { choke } from './choke'
import { dead } from './dead'
import { ghost } from './ghost'
import { grace } from './grace'
import { hammerOn } from './hammer-on'
import { letRing } from './let-ring'
import type { CurvePoint, Mark } from './mark'
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

export const articulationSchema = z.discriminatedUnion('kind', [
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
  bar.schema,
  palmMute.schema,
])
export type Articulation = z.infer<typeof articulationSchema>

const MARKS: { [Kind in Articulation['kind']]: Mark<z.ZodType<Extract<Articulation, { kind: Kind }>>> } = {
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
  bar,
  'palm mute': palmMute,
}
/** The file of a mark's kind; its functions take marks of that kind, which this one is. */
const fileOf = (mark: Articulation): Mark<z.ZodType<Articulation>> =>
  MARKS[mark.kind] as unknown as Mark<z.ZodType<Articulation>>

/** Drawn over the note. */
export const signOf = (mark: Articulation): string | undefined => fileOf(mark).sign?.(mark)
/** Said after the fret. */
export const wordsOf = (mark: Articulation, fret: number): string | undefined =>
  fileOf(mark).words?.(mark, fret)
/** How the pitch of a note of these lengths moves under one mark. */
export const curveOf = (mark: Articulation, lengthTicks: number, beatTicks: number): CurvePoint[] =>
  fileOf(mark).curve?.(mark, lengthTicks, beatTicks) ?? []
/** Marks the bench offers in a list. */
export const OFFERED_MARKS: readonly { name: string; mark: Articulation }[] = Object.values(MARKS).flatMap(
  (file) => (file as unknown as Mark<z.ZodType<Articulation>>).offered ?? [],
)
