import type { Part, Song } from './schema'

/** A part of this name, in any case, other than one with the id. */
const taken = (song: Pick<Song, 'parts'>, name: string, except: string | undefined): Part | undefined =>
  Object.values(song.parts).find(
    (part) => part.id !== except && part.name.trim().toLowerCase() === name.trim().toLowerCase(),
  )

/** The name, or with a number after it while a part is called so: "Guitar", "Guitar 2", "Guitar 3". */
export function freePartName(song: Pick<Song, 'parts'>, name: string, except?: string): string {
  if (!taken(song, name, except)) return name
  const stem = name.trim().replace(/ \d+$/, '').slice(0, 55)
  let number = 2
  while (taken(song, `${stem} ${number}`, except)) number++
  return `${stem} ${number}`
}
