import { saying } from '../core/schema/wording'
import { array, type InferType, number, object, string } from 'yup'
import { directions, latestTime } from '../core/calls/model'
import { recordOf, spokenText } from '../core/schema/shapes'

/** Recorded calls: listed, heard, noted, deleted by whoever has the right. */

const text = string().defined()
export const longestNote = 400

export const recordingsQuery = object({
  /** Words of the caller, of whoever of ours was in the call, or of the note. */
  text: string().max(100).default('').label('text'),
  /** Where the page before ended: its `next`. */
  before: string().max(300).matches(/^(\d{1,15}~.{1,250})?$/, saying('input.nextPage')).default('').label('before'),
  limit: number().integer().min(1).max(200).default(50).label('limit'),
}).noUnknown().strict(false)

const recordingRow = object({
  id: text,
  call: text,
  /** Milliseconds since 1970. */
  at: number().min(0).max(latestTime).required(),
  seconds: number().integer().min(0).required(),
  note: text,
  notedBy: text.nullable(),
  /** Its sound is gone for good. */
  deletedBy: text.nullable(),
  direction: string().oneOf(directions).nullable().defined(),
  number: text.nullable(),
  name: text.nullable(),
  line: text.nullable(),
  /** Who of ours answered, or made the call. */
  with: text.nullable(),
  names: recordOf(spokenText),
})
export type RecordingRow = InferType<typeof recordingRow>

/** `next`: where the next page begins, or null at the end. */
export const recordingsPage = object({ rows: array(recordingRow).required(), next: text.nullable() })
export type RecordingsPage = InferType<typeof recordingsPage>

/** `before`: the note that was seen when it was changed. */
export const recordingNote = object({
  note: string().strict().max(longestNote).defined().label('note'),
  before: string().strict().max(longestNote).defined().label('before'),
}).noUnknown().required()
