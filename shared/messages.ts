import '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'

/** `text`: taken down by somebody for somebody; `voice`: left by a caller in a mailbox. */
const messageKinds = ['text', 'voice'] as const
export type MessageKind = typeof messageKinds[number]

/** Milliseconds in which whoever has deleted a message may bring it back. */
export const regretWithin = 24 * 60 * 60_000

/** A message for somebody who can't be reached. */
export const newMessage = object({
  to: string().strict().max(80).required().label('to'),
  caller: string().strict().max(80).nullable().defined().label('caller'),
  number: string().strict().max(40).nullable().defined().label('number'),
  text: string().strict().max(500).required().label('text'),
  urgent: boolean().strict().required().label('urgent'),
  callBack: boolean().strict().required().label('callBack'),
}).noUnknown().required()

/** To whom a message is passed on, and with which word. */
export const passedMessage = object({
  to: string().strict().max(80).required().label('to'),
  word: string().strict().max(200).defined().label('word'),
}).noUnknown().required()

/** Whether what a message is about has been dealt with. */
export const dealtMessage = object({ dealt: boolean().strict().required().label('dealt') }).noUnknown().required()

/** With `handset`, what that telephone's display shows. */
export const messagesQuery = object({ handset: string().max(80).optional().label('handset') }).noUnknown().strict(false)

const text = string().defined()

/**
 * One message as its reader and its writer see it: `from` is the sign-in of who wrote it, empty for a caller; `seconds` the length of a voice message,
 * `sound` whether it can be heard; one that its reader has deleted is shown for a day, in which they may bring it back; `dealtBy` has dealt with what it is
 * about. One that was passed on says by whom (`from` is their sign-in), and their word. Times are milliseconds since 1970.
 */
const message = object({
  id: text,
  kind: string().oneOf(messageKinds).required(),
  to: text,
  from: text,
  fromName: text,
  caller: text.nullable(),
  number: text.nullable(),
  text,
  urgent: boolean().required(),
  callBack: boolean().required(),
  seconds: number().nullable().defined(),
  sound: boolean().required(),
  at: number().required(),
  readAt: number().nullable().defined(),
  deletedAt: number().nullable().defined(),
  passedOn: text.nullable(),
  passedOnBy: text.nullable(),
  dealtBy: text.nullable(),
  dealtAt: number().nullable().defined(),
})
export type Message = InferType<typeof message>

/** Unread ones at a telephone, by their kinds: what an operator sees of other people's mailboxes. */
export const waiting = array(object({ at: text, text: number().required(), voice: number().required() })).required()
export type Waiting = InferType<typeof waiting>

/** Those for oneself (and, for operators, the lines), and those one has written. */
export const messages = object({ received: array(message).required(), written: array(message).required() })
export type Messages = InferType<typeof messages>
