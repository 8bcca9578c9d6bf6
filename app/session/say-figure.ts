// A figure said back in the words of the call line, as this person likes things named.
import { readCall } from '#core/call/read-call'
import { speak } from '#core/call/speak'
import { speakSaid } from '#core/call/speak-said'
import { stringLetters } from '#core/call/strings'
import type { Content, Figure, Part, Song } from '#core/document/schema'
import type { usePreferences } from '../stores/preferences'

type Preferences = ReturnType<typeof usePreferences>['values']

/** The call-outs of a content, a line each; in short or as one says them. */
export function sayFigure(
  song: Song,
  { figure, part, content, stepTicks }: { figure: Figure; part: Part; content: Content; stepTicks: number },
  preferences: Pick<Preferences, 'naming' | 'strings' | 'callWords'>,
): ReturnType<typeof speak> {
  const options = {
    letters: stringLetters(song, part, preferences.naming),
    strings: preferences.strings,
    meter: figure.meter,
    subdivision: figure.feel.subdivision,
    school: figure.school,
    stepTicks,
    openMidi: part.tuning.openMidi,
  }
  if (preferences.callWords === 'short') return speak(content, options)
  return speakSaid(content, options, (call) => {
    const back = readCall(call, { ...options, part })
    return back.ok ? back.value.content : undefined
  })
}
