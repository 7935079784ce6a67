import { boolean, object, string } from 'yup'
import './requests'

export const roles = ['operator', 'supervisor', 'administrator', 'staff'] as const
export type Role = typeof roles[number]

/** Who is signed in, as far as the interface may know. */
export interface SignedIn {
  signIn: string
  name: string
  role: Role
  /** The telephone that is theirs, when they have one, and its number. */
  device: string | null
  extension: string | null
}

export const credentials = object({
  signIn: string().strict().trim('Sign-in name must not begin or end with a space.').max(60).required().label('Sign-in name'),
  password: string().strict().max(200).required().label('Password'),
})

/** POST /api/password: a new password for oneself. */
export const passwordChange = object({
  current: string().strict().max(200).required().label('Present password'),
  wanted: string().strict().min(12, 'New password must be at least 12 characters.').max(200).required().label('New password'),
}).noUnknown()

/** PATCH /api/accounts/:signIn */
export const accountChange = object({
  role: string().oneOf(roles).optional().label('role'),
  disabled: boolean().strict().optional().label('disabled'),
}).noUnknown()

/** A browser at which one is signed in. Times are milliseconds since 1970. */
export interface OwnSession {
  id: string
  browser: string
  address: string
  createdAt: number
  seenAt: number
  /** The one that asks. */
  own: boolean
}

/** GET /api/accounts */
export interface AccountInfo extends SignedIn {
  disabled: boolean
  sessions: number
}

/** GET /api/upkeep: what runs this house and how it is, for administrators. */
export interface Upkeep {
  database: boolean
  exchange: boolean
  /** Events not yet written, and how much of them lies in a file. */
  journal: { behind: number, spilledBytes: number }
  /** What the database would not keep, newest first; the item is JSON as text. */
  setAside: { epoch: string, seq: number, at: number, reason: string, item: string }[]
}
