// check SONG --recording IN.wav: what a recording says against the chart.
import { songTimeMap } from '../core/document/form'
import type { Song } from '../core/document/schema'
import { quietJob } from '../core/hear/job'
import type { Finding } from '../core/check/finding'
import { recordingCheck } from '../core/check/recording/recording-check'
import { nodeFft } from '../node/fft'
import { Complaint } from './answer'
import { recordingPiece } from './read-recording'

/** Complains where the song does not lie over a recording, or the file is none. */
export async function heardFindings(song: Song, path: string): Promise<Finding[]> {
  if (!songTimeMap(song))
    throw new Complaint('The song is not laid out over a recording: check it without --recording.')
  return recordingCheck(await recordingPiece(path), await nodeFft())(song, quietJob)
}
