// One step of npm run fit, in a process of its own: "hear 0" or "hear 1" half of the songs, or "fit" some
// networks to what was heard.
import { fittedWishes, lessonOf, type Lesson } from './fit-lessons'
import { fitNetwork, isNetwork } from './fit-networks'

const [step, ...words] = process.argv.slice(2)
const songs = fittedWishes()
if (step === 'hear') {
  const half = Number(words[0])
  for (const [index, song] of songs.entries()) {
    if (index % 2 !== half) continue
    await lessonOf(song)
    if (index % 20 === half) console.log(`${index + 1} of ${songs.length} songs heard`)
  }
}
if (step === 'fit') {
  const heard: { record: boolean; lesson: Lesson }[] = []
  for (const song of songs) heard.push({ record: song.wish.record ?? false, lesson: await lessonOf(song) })
  for (const name of words.filter(isNetwork)) await fitNetwork(name, heard)
}
