import { array, type InferType, number, object, string } from 'yup'

/** Where telephones register: an address of this machine, and a port. */
export const sipAddress = /^(\d{1,3}(?:\.\d{1,3}){3}|\[[0-9a-f:]+\]):(\d{1,5})$/i

/** The realm that telephones hash with their secret (RFC 7616): the same in every house, so that a telephone keeps its account when a house is renamed. */
export const telephoneRealm = 'estafette'

/** What the exchange knows of a telephone that registers: its name and its secret as digest needs it (RFC 8760), never the secret itself. */
export const telephoneAccount = object({
  device: string().strict().max(100).required(),
  name: string().strict().max(40).required(),
  md5: string().strict().matches(/^[0-9a-f]{32}$/).required(),
  sha256: string().strict().matches(/^[0-9a-f]{64}$/).required(),
  /** Messages in its mailbox that nobody has heard. */
  unheard: number().strict().integer().min(0).required(),
})
export type TelephoneAccount = InferType<typeof telephoneAccount>

export const mostAccounts = 20_000
export const telephoneAccounts = array(telephoneAccount.required()).max(mostAccounts).required()
