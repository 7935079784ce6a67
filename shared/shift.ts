import '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { openKinds } from '../core/console/open-things'
import { spokenText } from '../core/schema/shapes'
import { longest } from './longest'

/** What is said from one shift to the next. Times are those that people read, in milliseconds since 1970. */

const text = string().defined()
const time = number().required()
const whole = number().integer().required()

/** A note for whoever comes next. */
export const newShiftNote = object({ text: string().strict().max(longest.shiftNote).required().label('text') }).noUnknown().required()
export const shiftNoteId = object({ id: string().uuid().required().label('id') })
export const shiftNoteDone = object({ done: boolean().strict().required().label('done') }).noUnknown().required()
export const newHandOver = object({ words: string().strict().max(longest.shiftNote).defined().label('words') }).noUnknown().required()

const shiftNote = object({ id: text, text, byName: text, at: time, doneByName: text.nullable(), doneAt: time.nullable().defined() })
const openThing = object({ kind: string().oneOf(openKinds).required(), who: spokenText, words: spokenText, since: time })

const handOver = object({
  id: text,
  at: time,
  byName: text,
  /** Of who hands over: they can't sign it themselves. */
  own: boolean().required(),
  words: text,
  things: array(openThing).required(),
  notes: array(text).required(),
  missed: whole,
  unread: whole,
  seenByName: text.nullable(),
  seenAt: time.nullable().defined(),
})

/** `missed`: calls with which nobody has dealt yet, of the last days; `unread`: messages in the voicemails of lines. */
export const shift = object({
  notes: array(shiftNote).required(),
  handOvers: array(handOver).required(),
  missed: whole,
  unread: whole,
})
export type Shift = InferType<typeof shift>
export type HandOver = InferType<typeof handOver>
