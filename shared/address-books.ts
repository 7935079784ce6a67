import { saying } from '../core/schema/wording'
import { array, type InferType, number, object, string } from 'yup'

/** An address book of another server (CardDAV): its cards are contacts here, changed there alone. */
export const newAddressBook = object({
  name: string().strict().trim().min(1).max(60).required().label('name'),
  address: string().strict().max(500).matches(/^https?:\/\/\S+$/i, saying('input.webAddress')).required().label('address'),
  /** Whom the other server knows us as; empty where it asks nobody. */
  user: string().strict().max(200).defined().label('user'),
  password: string().strict().max(200).defined().label('password'),
}).noUnknown().required()
export type NewAddressBook = InferType<typeof newAddressBook>

/** The password is told to nobody. */
export const addressBook = object({
  id: string().defined(),
  name: string().defined(),
  address: string().defined(),
  user: string().defined(),
  /** How many contacts come from it, and how many of its cards name nobody. */
  contacts: number().required(),
  unread: number().required(),
  /** How many of its cards hold more than is kept; of the first of them whose, and what of it is not. */
  cut: number().required(),
  cutCards: array(string().defined()).required(),
  /** When it was last read, in milliseconds since 1970; null: never whole. */
  readAt: number().nullable().defined(),
  /** Why it could not be read the last time. */
  failure: string().nullable().defined(),
})
export type AddressBook = InferType<typeof addressBook>
