// What every command takes and gives back.

/** A wrong request, told in a sentence. */
export class Complaint extends Error {}
export type Flags = Record<string, string>

/** Shown to scripts whole, to people in words. */
export interface Answer {
  data: unknown
  words: string
  failed?: boolean
}
