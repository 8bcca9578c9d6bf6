// accents IN.wav --from S --to S --of kick|left|right: when somebody in the band accents there.
import { kickAccents } from '../core/hear/draft/kick'
import { sideAccents } from '../core/hear/draft/accents'
import { quietJob } from '../core/hear/job'
import { nodeFft } from '../node/fft'
import { Complaint, type Answer, type Flags } from './answer'
import { stretchFrom } from './flag-values'
import { recordingPiece } from './read-recording'

const HEARD = ['kick', 'left', 'right'] as const
type Heard = (typeof HEARD)[number]
const isHeard = (value: string): value is Heard => (HEARD as readonly string[]).includes(value)

export async function accents(path: string, flags: Flags): Promise<Answer> {
  const { from, to } = stretchFrom(flags, 'accents')
  const of = flags.of ?? 'kick'
  if (!isHeard(of)) throw new Complaint(`--of is one of ${HEARD.join(', ')}.`)
  const sound = await recordingPiece(path, from, to)
  const makeFft = await nodeFft()
  const heard =
    of === 'kick'
      ? await kickAccents(sound, makeFft, quietJob)
      : await sideAccents(sound, of, makeFft, quietJob)
  const data = heard.map(({ seconds, strength }) => ({
    seconds: Math.round((seconds + sound.offset) * 1000) / 1000,
    strength: Math.round(strength * 100) / 100,
  }))
  const words = data.map(({ seconds, strength }) => `${seconds.toFixed(2)}  ${strength.toFixed(2)}`)
  return { data: { accents: data }, words: words.join('\n') || 'Nothing is heard there.' }
}
