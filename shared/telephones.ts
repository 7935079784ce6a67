import { array, type InferType, number, object, string } from 'yup'
import { latestTime } from '../core/calls/model'

/** Telephones of the network: which of ours are one, and how they are told of us. */

export const withTelephone = object({ device: string().strict().min(1).max(100).required().label('device') })

export const telephoneAccountsKept = object({
  /** Where telephones register, as `address:port`; null: this house serves none. */
  address: string().nullable().defined(),
  telephones: array(object({
    device: string().required(), name: string().required(),
    /** The sign-in of whoever made it, or renewed its secret; when, in milliseconds since 1970. */
    by: string().required(), at: number().min(0).max(latestTime).required(),
  })).required(),
})
export type TelephoneAccountsKept = InferType<typeof telephoneAccountsKept>

/** What is typed into a telephone; the secret is told this once. */
export const telephoneSecret = object({ address: string().required(), name: string().required(), secret: string().required() })
export type TelephoneSecret = InferType<typeof telephoneSecret>
