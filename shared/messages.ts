import { boolean, object, string } from 'yup'
import './requests'

/** `text`: taken down by somebody for somebody; `voice`: left by a caller in a mailbox. */
export type MessageKind = 'text' | 'voice'

/** POST /api/messages: a message for somebody who can't be reached. */
export const newMessage = object({
  to: string().strict().max(80).required().label('to'),
  caller: string().strict().max(80).nullable().defined().label('caller'),
  number: string().strict().max(40).nullable().defined().label('number'),
  text: string().strict().max(500).required().label('text'),
  urgent: boolean().strict().required().label('urgent'),
  callBack: boolean().strict().required().label('callBack'),
}).noUnknown()

/** GET /api/messages and POST …/read: with `handset`, what that telephone's display shows. */
export const messagesQuery = object({ handset: string().max(80).optional().label('handset') }).noUnknown().strict(false)

/** One message as its reader and its writer see it. Times are milliseconds since 1970. */
export interface Message {
  id: string
  kind: MessageKind
  to: string
  /** The sign-in of who wrote it; empty for a caller. */
  from: string
  fromName: string
  caller: string | null
  number: string | null
  text: string
  urgent: boolean
  callBack: boolean
  /** Length of a voice message. */
  seconds: number | null
  at: number
  readAt: number | null
}

/** GET /api/messages: those for oneself (and, for operators, the lines), and those one has written. */
export interface Messages {
  received: Message[]
  written: Message[]
}
