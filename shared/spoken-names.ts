import { saying } from '../core/schema/wording'
import { boolean, object, string } from 'yup'
import { longestName, speechRate } from '../core/recognition/speech'

/** A name that somebody speaks into the microphone, to be found in the directory. */

const head = 4_096
/** Characters: the longest, as a WAV file of 16 bit, as base64. */
export const longestSpoken = Math.ceil((longestName * speechRate * 2 + head) / 3) * 4

/** A WAV file of one channel and 16 bits at 16 kHz, as base64. */
export const spokenName = object({
  wav: string().strict().max(longestSpoken).matches(/^[A-Za-z0-9+/]*={0,2}$/, saying('input.base64')).required().label('wav'),
}).noUnknown().strict()

/** What was understood: a name of the company's, or null. */
export const understood = object({ name: string().strict().nullable().defined() })
/** Whether this house has a program that understands speech. */
export const understands = object({ understands: boolean().strict().required() })
