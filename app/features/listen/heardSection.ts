// What was heard of a section, in short sentences.
import { counted } from '#core/words/words'
import type { Analysis } from '#core/hear/analysis'
import { keyName, pretty, transposeKey } from '#core/music/pitch'
import { nameSections } from '#core/suggest/section-names'
import { clock } from '#core/time/beat-grid'
import { percent } from './heardRows'

type Section = NonNullable<Analysis['sections']>[number]

const SIDES = { l: 'left', c: 'centre', r: 'right', b: 'low' }

function patternWords({ pattern }: Section): string {
  if (!pattern) return ''
  const names = pattern.differs.map((time) => (time === pattern.times - 1 ? 'last' : `no. ${time + 1}`))
  const differs = names.length ? `, ${names.join(' and ')} differs` : ''
  return `${counted(pattern.bars, 'bar')} × ${pattern.times}${differs}`
}
function returnWords({ returns }: Section, sections: readonly Section[]): string {
  if (!returns) return ''
  const { shift, differs } = returns
  const words = [
    `like the section at ${clock(sections[returns.section]?.start ?? 0)}: ${percent(returns.likeness)}`,
    shift ? `${shift > 0 ? '+' : ''}${shift} semitones` : '',
    differs.length ? `differs in bar ${differs.map((bar) => bar + 1).join(', ')}` : '',
  ]
  return words.filter(Boolean).join(', ')
}
function playingWords(activity: string | undefined): string {
  if (activity === undefined) return ''
  const heard = Object.entries(SIDES).filter(([letter]) => activity.includes(letter))
  return `plays: ${heard.map(([, word]) => word).join(', ') || 'nobody'}`
}

function riffWords({ riffOn, key }: Section, nameShift: number): string {
  if (!riffOn) return ''
  const moved = transposeKey({ tonic: riffOn, mode: key?.mode ?? 'major' }, nameShift).tonic
  const root = nameShift ? moved : riffOn
  return `riff on ${pretty(root)}, not a progression`
}

/** Name, pattern, key, accents, what it returns, and who plays in the bar; only what was heard. */
export function sectionWords(
  analysis: Analysis,
  section: Section,
  options: { bar: number | undefined; nameShift: number },
): string[] {
  const sections = analysis.sections ?? []
  const named = nameSections(sections)[sections.indexOf(section)]
  const key = section.key && keyName(transposeKey(section.key, options.nameShift))
  return [
    named ? `${named.name}: ${named.why}` : '',
    patternWords(section),
    key ? `${key}${section.flavour ? `, ${section.flavour}` : ''}` : '',
    riffWords(section, options.nameShift),
    section.grouping ? `accents in ${section.grouping}` : '',
    returnWords(section, sections),
    playingWords(options.bar === undefined ? undefined : analysis.activity?.[options.bar]),
  ].filter(Boolean)
}
