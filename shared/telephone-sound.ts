import { array, boolean, type InferType, number, object, string } from 'yup'
import { saying } from '../core/schema/wording'

/** What the exchange and the sound process say to each other about telephones of the network. */

/** Characters: what fits a packet, and more. */
const longestDescription = 20_000

const session = () => string().strict().max(200).required()
const sdp = () => string().strict().max(longestDescription).matches(/^v=0\r?\n/, saying('input.sessionDescription'))
const host = () => string().strict().max(45).required()

/**
 * The sound of one dialog with a telephone. `address`: of ours, that it reaches; `peer`: that it speaks from; `port`: that it knows already;
 * `offer` or `answer`: how it describes itself (SDP). `secret`: we offer to
 * encrypt. `alone`: only if nobody is heard at that telephone by a browser.
 */
export const telephoneSound = object({
  session: session(), device: string().strict().max(100).required(), address: host(), peer: host(),
  port: number().strict().integer().min(1).max(65_535).optional(), offer: sdp().optional(), answer: sdp().optional(),
  secret: boolean().strict().optional(), alone: boolean().strict().optional(),
}).noUnknown().strict()
export type TelephoneSound = InferType<typeof telephoneSound>

/** `sdp`: our offer, or our answer to theirs; null when they have answered. `port`: 0 where a browser is heard already. */
export const telephoneSoundAnswer = object({ port: number().required(), sdp: string().nullable().defined() })
export type TelephoneSoundAnswer = InferType<typeof telephoneSoundAnswer>

export const endedTelephones = object({ sessions: array(session()).max(1_000).required() }).noUnknown().strict()

/** A line of what is heard from telephones: a digit (RFC 4733), that nothing comes any more, or (first) whose sound there is. */
export const telephoneWord = object({
  session: string().optional(), digit: string().optional(), over: boolean().optional(), sessions: array(string().required()).optional(),
})
export type TelephoneWord = InferType<typeof telephoneWord>
