import { saying } from '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'

/** What a browser and the sound process say to each other before they are connected (WebRTC, RFC 8829), by way of the server. */

/** Characters. A browser's own offer has some 3,000. */
const longestDescription = 20_000

const sdp = () => string().strict().max(longestDescription).matches(/^v=0\r?\n/, saying('input.sessionDescription')).required()
const device = () => string().strict().max(100).required()

/** The ear and mouth of which telephone, or of which caller whom one plays, and what the browser offers. */
export const soundOffer = object({ device: device().label('device'), sdp: sdp().label('sdp') }).noUnknown().strict()
export const soundAnswer = object({ sdp: sdp() })
export type SoundAnswer = InferType<typeof soundAnswer>

/** The same as the sound process hears it: `session` ends with whoever is behind it. */
export const earOffer = soundOffer.shape({ session: string().strict().max(200).required() })
export const endedSessions = object({ sessions: array(string().strict().max(200).required()).max(1_000).required() }).noUnknown().strict()

/** Two seconds, or the rest, of what was said to a mailbox: G.711 (µ-law) as base64. `place`: where it stands among the pieces of its message. */
const soundPiece = object({
  message: string().strict().max(200).required(), place: number().strict().integer().min(0).required(), sound: string().strict().max(40_000).required(),
})
export type SoundPiece = InferType<typeof soundPiece>
/** So many are given at once. */
export const mostPieces = 40
export const soundPieces = object({ pieces: array(soundPiece.required()).max(mostPieces).required() })
export const keptPieces = object({ places: array(number().strict().integer().required()).max(mostPieces).required() }).noUnknown().strict()

/** How the sound process is. */
export const soundHealth = object({
  /** Whether it knows what happens at the exchange; whether made-up people can speak. */
  exchange: string().oneOf(['up', 'down']).required(),
  speech: string().oneOf(['up', 'down']).required(),
})
export type SoundHealth = InferType<typeof soundHealth>
/** `here`: the house has sound at all; `process`: null while it does not answer. */
export const soundState = object({ here: boolean().required(), process: soundHealth.nullable().default(null).defined() }).required()
