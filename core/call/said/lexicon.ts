// The words people use on the call line, each with the one word the reader knows it by. What is said in
// several words ("let it ring", "at the same time") is one entry. A word that can be two things ("bar",
// "top", "hold") stands for itself: what is around it decides.

/** The reader's word = what is said for it; a line that is indented goes on with the one before. */
const SAID_FOR = `
hammer = hammer on, hammer-on, hammers, hammers on, hammering, hammering on, hammered, hammered on,
  hammer-ons, hammer ons, hammer it on, ha
pull = pull off, pull-off, pulls, pulls off, pulling off, pulling, pulled off, pulled, pull-offs, pull
  offs, flick off, pull it off, pu
slide = slides, slid, sliding, gliss, glide, sl, slide it
shift = shift slide
roll = roll over, rolling over, roll across, cross over, cross, cross to, jump over, hop over
tap = tapped, tapping
trill = trills, trilling
bend = bends, bent, bending, bend it, bend that, string bend
prebend = pre-bend, pre-bends, pre bend, prebent, pre-bent, ghost bend
release = releases, releasing, released, release it, let it down, let it back down, let it fall, let
  down, bring it down, bring it back down, let it come down, let it come back down, let it back, let
  back down
holdit = hold it, hold that, and hold, keep it there, hold it there, hold the bend, and hold it
curl = a little curl, little curl, a touch of a bend, a bit of a bend, a little bend, slight bend, small
  bend, little bend, tiny bend, bend slightly, bend it slightly, bend a little, bend it a little, bend
  it a touch, bend it a bit, slight curl, smear, bent slightly, bent a little, bent a touch, bent a bit,
  slightly bent, bend a touch, bend a bit, blues curl, bluesy curl, bluesy bend
full = whole step, full step, whole tone, full tone, full, whole-step, full-step, one step, a tone
halfstep = half step, half-step, half tone, semitone, half-tone, half a step, half a tone, half steps
quartertone = quarter tone, quarter step, quarter-tone, quarter-step
stepandhalf = step and a half, tone and a half, one and a half steps, whole step and a half, three half
  steps
twosteps = two steps, two whole steps, two tones, two full steps
vibrato = some vibrato, shake, shake it, wiggle, wiggle it, vib, vibratos, shaken, slow vibrato
widevibrato = wide vibrato, big vibrato, heavy vibrato, fat vibrato, lots of vibrato
harmonic = harmonics, natural harmonic, natural harmonics, chime
pinch = pinch harmonic, pinched harmonic, pinch harmonics, artificial harmonic, squeal, squealer
dive = dive it with the bar, dive with the bar, dive bomb, divebomb, dive it, dive it down with the bar
dip = dip it with the bar, dip the bar, dip it
palm = palm mute, palm-mute, palm muted, palm-muted, palm muting, palm-muting, palm mutes, pm, chug,
  chugs, chugged, chugging, palmed, muted with the palm, palm mute it
ringall = let them all ring, let it all ring, let everything ring, let them ring into each other, let it
  all ring out, let them all ring out, let everything ring out, let those ring, let them ring, let them
  ring out
ring = let ring, let it ring, let that ring, let it ring out, ring out, ringing, ring into each other,
  ringing into each other, left to ring, ringing out, sustain, sustained, let it sustain, let it hang
staccato = choppy, clipped, cut short, nice and short, stacc
accent = accented, accents, dig in
ghost = ghosted, ghost note, ghost notes
tremolo = tremolo pick, tremolo picked, tremolo picking
rake = raked, rake into
scrapeup = scrape up, pick scrape up, scrape up the string, scrape up the strings
scrapedown = scrape, scrape down, pick scrape, pick scrape down, pick slide, scrape down the string, scrape
  down the strings
scrapeback = scrape there and back, scrape up and back, scrape up and down, slide along the neck and back,
  slide up the neck and back, scrape along the neck and back
grace = grace note, grace notes
dead = dead note, dead notes, deadened, damped, muted note, muted notes, muffled, x, xs, muted
chuck = chucks, scratches, scratch, chk, chick, chicks, chucka, dead stroke, dead strokes, dead strum,
  dead strums, dead hit, dead hits, muted strum, muted strums, muted stroke, muted strokes, dead ones,
  muted hit, muted hits
down = downs, downstroke, downstrokes, down stroke, down strokes, down strum, down strums, downstrum,
  downstrums
up = ups, upstroke, upstrokes, up stroke, up strokes, up strum, up strums, upstrum, upstrums
strum = strums, strummed, strumming, stab, stabs
pick = picks, picking, picked, pluck, plucks, plucking, arpeggiate, fingerpick
rest = rests, silence, pause, a rest
choke = stop, choke it, cut it, cut it off, stop it, stop it dead
and = plus, &, +, or
with = along with, pinched with, pinch with, pinched together with, together with, at the same time as
together = at the same time, at once, simultaneously, all at once, all together, both together, both at
  once, as a double stop, as one
dyads = double stop, double-stop, double stops, double-stops, doublestop, doublestops, dyad, sixths,
  thirds, fourths, tenths, in sixths, in thirds, fifths, in fourths, tens
then = and then, after that, and after that, followed by, next, after which, from there, finally, then
  finally, and finally
twice = two times, a couple times, a couple of times, couple times, couple of times
times = time, passes
couple = a couple of, a couple, couple of
again = once more, one more time, same again, another time, over again, once again, the same again, do
  it again, do that again, play it again, play that again, that again, do it one more time, do it once
  more, play that once more, same thing again, the same thing again, exact same thing, exact same thing
  again, same one again, one more, and again, play the same thing again, go again, do the same again,
  same once more
same = same thing, same idea, same lick, same riff, same shape, same pattern, same line, same notes,
  same phrase, same figure, same grip, same chord, likewise, same move, same deal, same bit, exact same
samerhythm = same rhythm, same timing, in the same rhythm, with the same rhythm, same strumming, same
  strum
wholething = whole thing, that whole thing, that shape, that grip, that chord, this shape, the shape,
  the grip, all of that, all that, that whole lick, that whole riff, everything, the whole lot, whole
  lot, that lick, that riff, that phrase, that bit, that line, that figure, the lot, whole line, whole
  riff, whole lick, whole phrase, that part, that pattern, all of those, all those, all of them, all of
  it, whole chord, the whole chord, whole shape, whole riff
repeat = repeats, repeat that, repeat it, repeated, loop, loop that, loop it, play it, play that, do
  that, do it, run it, run that
octavehigher = octave higher, octave up, up an octave, up the octave, octave above
octavelower = octave lower, octave down, down an octave, octave below
backwards = in reverse, reversed, reverse, reverse it, play it backwards
without = leave out, leaving out, minus, skipping, leave off, leaving off, dropping, omit, omitting,
  losing
leftout = left out, left off, missing
except = except for, but not, apart from, other than
finish = finish on, finishing on, finishing, end on, ending on, end it on, finish it on, end up on, land
  on, landing on, ending, end with, finish with, finishing with, ending with, finish it with, end it
  with
begin = start on, starting on, start from, starting from, beginning on, begin on, start at, starting at,
  from fret
sorry = no wait, wait no, i mean, i meant, make that, correction, actually, no sorry, sorry i mean, or
  rather, wait, oops, no i mean, no actually, whoops, my mistake, sorry no, wait sorry, er no
scratchthat = scratch that, forget that, strike that, undo that, ignore that, take that back, no scratch
  that, start over, let me start over, start again, let me start again
fret = frets
open = open string, zero
openstrings = open strings, opens
both = both of them, both strings, both of those, those two, the two of them, on the same two, same two
  strings, the same strings, same strings, the pair, them both, same pair, those strings, these two
samestring = same string, that same string, that string
alone = on its own, on their own, by itself
power = power chord, power chords, powerchord, powerchords
octave = octaves, octave shape, octave shapes, in octaves
barre = barred, barring, barres, flatten across, lay across, bar across, barre across, barring across
lift = lift up, lift off, take off, take away, remove, lifting, lift the
dontplay = don't play, dont play, don't hit, dont hit, don't strum, do not play, avoid, mute out, not
  playing, don’t play, don’t hit, don’t strum
change = change to, changing to, switch to, changes to, goes to, go to, moving to, switching to
keep = leave the rest, keep the rest, keeping, leaving the rest, keep everything else, leave everything
  else, leave everything, keep the others, leave the others, the rest stays, the others stay
index = index finger, first finger, pointer, 1st finger, pointer finger
middlefinger = middle finger, second finger, 2nd finger, long finger
ringfinger = ring finger, third finger, 3rd finger
pinky = pinkie, little finger, fourth finger, pinky finger, 4th finger, small finger
beat = beats, count, counts
measure = measures, bars
each = apiece, a piece, per chord
sound = let that one sound, let it sound, let the last one sound, let that sound, let that one through,
  unmuted, let this one sound, not muted
last = last one, final, last note, very last, final one, final note, last ones, very last one, very last
  note
firstone = first one, first note, very first
below = underneath, beneath
inbass = in the bass, on the bottom, as the bass, for the bass, as bass, on bottom, in bass
alldowns = all downs, all downstrokes, all down strokes, downs only, all down, just downs, downstrokes
  only, straight downs, straight down strokes, all downpicked, downpicked, down picked, down-picked,
  only downs
allups = all ups, all upstrokes, ups only, all up, just ups
allway = all the way, all the way through, throughout, the whole bar, all through, straight through,
  constant, steady, the whole way, the whole time
thirdabove = third above, a third above, third up, third higher, a third up, a third higher, thirds
  above
thirdbelow = third below, a third below, third lower, third down
sixthabove = sixth above, a sixth above, sixth up, sixth higher
fifthabove = fifth above, a fifth above, fifth up, fifth higher
inkey = in the key, in key, in the scale, of the key, of the scale, staying in key, staying in the key
secondbar = second bar, bar two, bar 2, 2nd bar
firstbar = first bar, bar one, bar 1, first bit, first thing, first part, first line, first lick, first
  riff, 1st bar, opening bit
stringset = set of strings, string set, sets of strings
tie = tied
inturn = one after another, one after the other, one by one, in a row, in order, one at a time, in turn
`

/** Words that carry nothing: passed over, and shown dimmed. */
export const EMPTY_WORDS: ReadonlySet<string> = new Set(
  `so now just right there here like okay ok well um uh er erm you you're youre you’re your i i'm we
  we're we’re going gonna want it's it’s its is be are am play plays playing played get got have has
  do does let's lets let’s this here's here’s there's there’s real really very quick quickly nice
  nicely gently softly slowly basically kind sort kinda sorta note notes ahead come comes coming reach
  jump hop stretch stretching lick riff run please that's that’s goes go it that them those these
  something bit single only say maybe straight way big hand fingers finger position neck of an a to
  the for on in at as out through gets bring carry starting start starts begin beginning pattern shape
  part phrase tone was were will would could can should also too ones one over off still yeah yes
  alright guys everyone back all by into with from another up down more and i'd i’d you'd always each
  time little make makes made while all-in-all hit hits strike striking inturn let me chord every
  whole legato finish row total two-note give held switch heavy step steps hold left using use used
  both`.split(/\s+/),
)

const entries = SAID_FOR.trim()
  .replaceAll(/\n\s+/g, ' ')
  .split('\n')
  .flatMap((line): (readonly [string, string])[] => {
    const [word = '', said = ''] = line.split(' = ')
    return said.split(',').map((phrase) => [phrase.trim(), word] as const)
  })
  .filter(([phrase]) => phrase !== '')

/** What is said → the reader's word for it. */
const PHRASES: ReadonlyMap<string, string> = new Map(entries)
/** How many words the longest phrase has. */
const LONGEST_PHRASE = Math.max(...entries.map(([phrase]) => phrase.split(' ').length))

/** The reader's word for the words from the first on, and how many of them it takes; undefined for none. */
export function phraseAt(words: readonly string[]): { word: string; taken: number } | undefined {
  for (let taken = Math.min(LONGEST_PHRASE, words.length); taken > 0; taken--) {
    const word = PHRASES.get(words.slice(0, taken).join(' '))
    if (word !== undefined) return { word, taken }
  }
  return undefined
}

/** Every word the reader knows by itself; what is in none of its tables may be a slip of the pen. */
export const knownWords = (): string[] => [
  ...new Set(entries.flatMap(([phrase, word]) => [...phrase.split(' '), word])),
]
