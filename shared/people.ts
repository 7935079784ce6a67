import { saying } from '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { rights } from './rights'
import { roles } from './roles'
import { soundState } from './sound'

const text = string().defined()
const time = number().required()

/**
 * Who is signed in, as far as the interface may know. `rights`: what their role may do now; `device`, `extension`: the telephone that is theirs, when they
 * have one, and its number.
 */
export const signedIn = object({
  signIn: text,
  name: text,
  role: string().oneOf(roles).required(),
  rights: array(string().oneOf(rights).required()).required(),
  device: text.nullable(),
  extension: text.nullable(),
})
export type SignedIn = InferType<typeof signedIn>

/** `there`: where the browser goes to end its session at the identity provider too; null: none began it. */
export const signedOut = object({ signedOut: boolean().oneOf([true]).required(), there: text.nullable() })

export const credentials = object({
  signIn: string().strict().trim(saying('input.noSpacesAround')).max(60).required().label('signIn'),
  password: string().strict().max(200).required().label('password'),
}).required()

/** A new password for oneself. */
export const passwordChange = object({
  current: string().strict().max(200).required().label('current'),
  wanted: string().strict().max(200).required().label('wanted'),
}).noUnknown().required()

/** What an administrator changes of an account. */
export const accountChange = object({
  role: string().oneOf(roles).optional().label('role'),
  disabled: boolean().strict().optional().label('disabled'),
  /** Whose it is, by their id; null: nobody's who works here. */
  person: string().strict().max(80).nullable().optional().label('person'),
}).noUnknown().required()

export const newAccount = object({
  signIn: string().strict().matches(/^[\p{L}\p{N}._@-]{2,60}$/u, saying('input.signIn')).required().label('signIn'),
  role: string().oneOf(roles).required().label('role'),
  person: string().strict().max(80).nullable().defined().label('person'),
  /** Of an account that is nobody's who works here. */
  name: string().strict().max(80).defined().label('name'),
}).noUnknown().required()

/** What was changed of accounts (`account`: whose) and of the rules of the house (`account`: null), the newest first. */
export const accountChanges = array(object({
  id: number().required(), at: time, by: text, account: text.nullable(), what: text, before: text, after: text,
})).required()
export type AccountChanges = InferType<typeof accountChanges>

/** A password that is shown this once. */
export const accountMade = object({ signIn: text, password: text })

/** An account in the address. */
export const accountNamed = object({ signIn: string().required().label('signIn') })

/** Something with an id in the address. */
export const withId = object({ id: string().required().label('id') })

/** Browsers at which one is signed in. Times are milliseconds since 1970; `own` is the one that asks. */
export const ownSessions = array(object({ id: text, browser: text, address: text, createdAt: time, seenAt: time, own: boolean().required() })).required()
export type OwnSession = InferType<typeof ownSessions>[number]

export const accounts = array(signedIn.shape({ person: text.nullable(), disabled: boolean().required(), sessions: number().integer().required() })).required()
export type AccountInfo = InferType<typeof accounts>[number]

/**
 * What runs this house and how it is. `journal`: events not yet written, and how much of them lies in a file;
 * `setAside`: what the database would not keep, newest first; the item is JSON as text.
 */
export const upkeep = object({
  database: boolean().required(),
  exchange: boolean().required(),
  sound: soundState,
  /** `losing`: neither memory nor disk has room, and the exchange is asked again; `gaps`: what nobody knows any more (`before` null: the rest of that run). */
  journal: object({
    behind: number().required(), spilledBytes: number().required(), losing: boolean().required(),
    gaps: array(object({ epoch: text, after: number().required(), before: number().nullable().defined(), at: time })).required(),
  }).required(),
  setAside: array(object({ epoch: text, seq: number().required(), at: time, reason: text, item: text })).required(),
})
export type Upkeep = InferType<typeof upkeep>

/** That a server is alive, and for how many seconds; `losing`: what happens finds room neither in memory nor on the disk. */
export const health = object({ status: string().oneOf(['ok', 'losing']).required(), seconds: number().integer().min(0).required() })

/** How database and exchange are, for everybody. */
export const ready = object({
  status: string().oneOf(['ok', 'degraded']).required(),
  database: object({
    up: boolean().required(), journalBehind: number().required(), journalSpilledBytes: number().required(), journalLosing: boolean().required(),
  }).required(),
  exchange: object({ up: boolean().required(), epoch: text.nullable() }).required(),
  lastEvent: number().integer().required(),
})
