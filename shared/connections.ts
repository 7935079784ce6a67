import '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'

/**
 * Other programs that this house lives with: the exchange, the customer system, who tells who somebody is, its own directory, address books and calendars of
 * other servers.
 */
const connectionKinds = ['exchange', 'customers', 'identityProvider', 'houseDirectory', 'addressBook', 'calendar'] as const

const named = {
  kind: string().oneOf(connectionKinds).required().label('kind'),
  /** Of an address book, or of whom or what a calendar is; empty for the others. */
  id: string().strict().max(80).defined().label('id'),
}

/** Which of them is to be tried now. */
export const connectionNamed = object(named).noUnknown().required()

export const connection = object({
  ...named,
  name: string().defined(),
  /** Where it is; empty where that is nobody's business. */
  address: string().defined(),
  well: boolean().required(),
  /** When it last did what it is there for, in milliseconds since 1970; null: not yet. */
  lastSuccess: number().nullable().defined(),
  /** Why it did not, the last time that it did not. */
  lastProblem: string().nullable().defined(),
  /** What came of it, in a few words: "37 contacts". */
  brings: string().defined(),
  /** What of it could not be kept, the first of it one by one. */
  notKept: array(string().defined()).required(),
})
export type Connection = InferType<typeof connection>

export const connections = array(connection.required()).required()
