import { saying } from '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { ownable } from '../core/company/house-directory'
import { meanings } from '../core/company/people-table'

/** The house's own directory (LDAP, RFC 4511): who works here stands there, and is kept in step here. */
const columns = array(object({
  attribute: string().strict().matches(/^[a-zA-Z][\w.;-]{0,100}$/, saying('input.attribute')).required().label('attribute'),
  meaning: string().oneOf(meanings).required().label('meaning'),
}).noUnknown().required()).max(200).required().label('columns')

export const houseDirectoryWanted = object({
  address: string().strict().max(300).matches(/^ldaps?:\/\/[\w.-]+(:\d{1,5})?\/?$/i,
    saying('input.directoryAddress'))
    .required().label('address'),
  /** Encrypted on the same port (RFC 4511, 4.14). */
  startTls: boolean().strict().required().label('startTls'),
  /** As whom we ask: a distinguished name; empty: as nobody. */
  user: string().strict().max(300).defined().label('user'),
  /** Empty: the one that is kept, for the same address and user. */
  password: string().strict().max(200).defined().label('password'),
  /** The part of the tree where people stand. */
  base: string().strict().max(500).defined().label('base'),
  /** RFC 4515. */
  filter: string().strict().min(3).max(1_000).matches(/^\(.*\)$/s, saying('input.filter')).required().label('filter'),
  /** Which attribute is what; empty: to be guessed. */
  columns,
  /** Whoever has no extension gets the next one that is free. */
  numbered: boolean().strict().required().label('numbered'),
}).noUnknown().required()
export type HouseDirectoryWanted = InferType<typeof houseDirectoryWanted>

const text = string().defined()
const row = object({ name: text, verdict: string().oneOf(['new', 'changed', 'unchanged', 'refused']).required(), why: text })

/** What would become of everybody there. */
export const houseDirectoryLook = object({
  columns: array(object({ attribute: text, meaning: string().oneOf(meanings).required(), sample: text })).required(),
  rows: array(row).required(),
})
export type HouseDirectoryLook = InferType<typeof houseDirectoryLook>

/** The password is told to nobody. */
export const houseDirectory = object({
  /** null: none is read. */
  settings: houseDirectoryWanted.omit(['password']).nullable().defined(),
  /** When it was last read whole, in milliseconds since 1970; null: never. */
  readAt: number().nullable().defined(),
  /** Why it could not be read the last time. */
  failure: text.nullable(),
  /** Who could not be taken, and why. */
  refused: array(row).required(),
  /** Who comes from it, what of them it owns, and since when (milliseconds since 1970) they are there no more. */
  people: array(object({ person: text, owns: array(string().oneOf(ownable).required()).required(), gone: number().nullable().defined() })).required(),
})
export type HouseDirectoryState = InferType<typeof houseDirectory>
