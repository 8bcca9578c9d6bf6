// What can be said on the call line, by example: the list shown inside the application. Every line of it is
// read by a test.
export interface CallExample {
  say: string
  means: string
}
export interface ExampleGroup {
  title: string
  examples: readonly CallExample[]
}

export const CALL_EXAMPLES: readonly ExampleGroup[] = [
  {
    title: 'Frets and strings',
    examples: [
      {
        say: '7 on the G, 9 on the G, then 8 on the B',
        means: 'fret first, string after; a string holds on',
      },
      { say: '3, 2, 0 on the D', means: 'all three on the string named after them' },
      { say: 'third string, 7, 9, 7', means: 'the string first; 1 is the highest' },
      { say: 'open low E, two fives on the A', means: 'open strings, and how many' },
      { say: '5 on the A with 7 on the D', means: 'together' },
      { say: '7 and 9 on the D and G, then 5 on both', means: 'two strings at once' },
      { say: 'power chord at the fifth fret of the A, then at 7', means: 'a root with its fifth' },
      { say: 'G 7 9 B 8', means: 'short: string, frets, string, frets' },
    ],
  },
  {
    title: 'Movements',
    examples: [
      { say: 'hammer on from 5 to 7 on the G, pull off back to 5', means: 'hammer-on and pull-off' },
      { say: 'slide into 9 on the G from below, slide up to 11', means: 'slides into and to a note' },
      { say: 'quick hammer-on and pull-off on the B, 6 8 6', means: 'movements first, their frets after' },
      { say: '14 on the G, slide down off the string', means: 'away from a note' },
      { say: '5 on the B, open high E, slide to 7 on the B', means: 'a slide taken up again' },
      { say: 'hold 577655, down, slide the whole chord up two frets', means: 'the grip slides' },
      { say: '5 on the low E, slide along the neck and back', means: 'a scrape, without a pitch' },
    ],
  },
  {
    title: 'Bends and shakes',
    examples: [
      {
        say: 'bend the 8 on the B a whole step',
        means: 'by how much: a half, a whole step, a step and a half',
      },
      { say: '7 on the G, bend it up and let it down', means: 'unsaid, it goes to the next note of the key' },
      { say: '3 on the low E with a little curl', means: 'less than a half step' },
      { say: '9 on the G with wide vibrato', means: 'shaken' },
      {
        say: 'bend the 7 on the B a whole step and hold it, 8 on the high E, release the B',
        means: 'kept bent while another string is struck',
      },
    ],
  },
  {
    title: 'Marks',
    examples: [
      { say: 'all palm muted, 0 0 3 0 on the low E', means: 'over everything that follows' },
      { say: '0 0 0 3 on the low E, palm mute all of that except the last', means: 'over what was said' },
      { say: '2 on the D, 2 on the G, 3 on the B, let these three ring', means: 'the last few' },
      { say: 'two dead notes on the low E, then 3', means: 'dead notes' },
      { say: '12th fret harmonic on the D', means: 'a natural harmonic' },
    ],
  },
  {
    title: 'Chords and grips',
    examples: [
      { say: 'A minor, F, C, G', means: 'a bar each' },
      { say: 'two bars of G, one of D', means: 'how long each is held' },
      { say: 'D over F sharp, E minor seven', means: 'names as they are said' },
      {
        say: 'D minor, first fret on the high E, third on the B, second on the G, open D',
        means: 'string by string',
      },
      { say: 'x32010, lift the first finger', means: 'a grip written out, and changed' },
      {
        say: 'A minor, mute the low E, put the pinky on 3 of the B',
        means: 'muted strings, one finger more',
      },
    ],
  },
  {
    title: 'The striking hand',
    examples: [
      { say: 'E minor, down, down-up, up-down-up', means: 'strokes, one step each' },
      { say: 'E9, chuck chuck, down up', means: 'dead strokes' },
      { say: 'A5, on one, and the and of two, and four', means: 'where they are struck' },
      { say: 'C, pick 5 4 3 2 3 4', means: 'strings of the grip, one after the other' },
      { say: 'G, low E, G, B, high E', means: 'the same by letters' },
    ],
  },
  {
    title: 'Time',
    examples: [
      { say: '7 on the G for a quarter, 9 for two beats', means: 'how long' },
      { say: 'in triplets, 5 7 9 on the G', means: 'the step from here on' },
      { say: '5 on the A, rest, 5, rest for two beats, 7', means: 'silence' },
      { say: 'open A on the and of one, 3 on the A on three', means: 'where it stands' },
    ],
  },
  {
    title: 'Again, otherwise, no',
    examples: [
      { say: '5 7 on the D, the same on the G', means: 'on other strings' },
      { say: '5 7 on the D, again, but finish on 9', means: 'with another ending' },
      { say: '3 5 on the low E, that whole thing up two frets', means: 'moved' },
      { say: '5 7 5 on the A, all of that twice', means: 'how often' },
      { say: '8, sorry, 9 on the D', means: 'the last word counts' },
      { say: '10 on the B, 12, scratch that, 13 on the B', means: 'the thought before is gone' },
    ],
  },
]
