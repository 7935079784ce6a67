import '../core/schema/wording'
import { array, type InferType, number, object, type Schema, string } from 'yup'
import type { NumberedEvent, Refusal, Request } from '../core/calls/model'
import type { Snapshot } from '../core/calls/snapshot'
import type { CompanyChange } from '../core/company/changes'
import { companyChange } from '../core/company/schema'
import { fields as configureFields } from '../core/calls/configuration/configure'
import { readRequest } from './requests'
import { telephoneAccounts } from './telephone-accounts'

/**
 * The language of the exchange link: one JSON object a line (UTF-8, LF) over TCP.
 * A server says hello and receives a welcome, then every event; it sends requests and receives one reply each.
 */

/** Bytes: room for the whole configuration of a large company. Longer lines are answered with an error and skipped. */
export const longestLine = 32 * 1024 * 1024
export const linkVersion = 8
/** A server says hello in this time (milliseconds) and with its first line, which is this long at most (bytes). */
export const helloWithin = 2_000
export const longestHello = 4 * 1024
/** Both sides say something at least this often (milliseconds), and take the other for dead after three times as long. */
export const heartbeat = 2_000

export type FromExchange
  /**
   * A state from which `events` lead to the present. It is at or before `since` when the exchange still remembers that far,
   * so that a server which was away sees every event it missed together with the state it happened in.
   */
  = | { type: 'welcome', now: number, state: Snapshot, events: NumberedEvent[], complete: boolean }
    | { type: 'event', event: NumberedEvent }
    | { type: 'reply', id: string, seq: number, call?: string, refusal?: Refusal }
  /** `reply` is null when no request with that id has been received. */
    | { type: 'outcome', id: string, reply: { seq: number, call?: string, refusal?: Refusal } | null }
  /** `id`: of the request that is wrong, when it has one. */
    | { type: 'error', message: string, id?: string }
    | { type: 'pong', now: number }

/** Ids of the API's users stand behind the name of who asks. */
const id = string().strict().max(200)
const mostPresent = 1_000

const hello = object({
  type: string().oneOf(['hello']).required(),
  version: number().strict().oneOf([linkVersion]).required().label('version'),
  token: string().strict().max(200).required(),
  since: object({ epoch: id.required(), seq: number().strict().integer().min(0).required() }).default(undefined).optional(),
})
const requestMessage = object({
  type: string().oneOf(['request']).required(),
  id: id.required(),
  request: object<Record<string, unknown>>().required(),
  /** The exchange's time after which it is not to be carried out any more. */
  before: number().strict().optional(),
})
/** What the company is from now on: everything once, later what has changed since version `from`. Until then the exchange knows nobody. */
const configure = configureFields().shape({
  type: string().oneOf(['configure']).required(),
  id: id.required(),
  changes: array(companyChange as Schema<CompanyChange>).required(),
})
/** Whether a request was carried out. */
const inquire = object({ type: string().oneOf(['inquire']).required(), id: id.required() })
/** With every beat: whose consoles are open at this server. Who is not named any more, by no server, has gone. */
const ping = object({ type: string().oneOf(['ping']).required(), present: array(id.required()).max(mostPresent).required() })
/** Moves an invented clock on, in milliseconds; refused by an exchange on real time. */
const advance = object({ type: string().oneOf(['advance']).required(), by: number().strict().integer().min(0).max(864e5).required() })
/** The telephones of the network that may register from now on, all of them. */
const telephones = object({ type: string().oneOf(['telephones']).required(), accounts: telephoneAccounts })

const messages = { hello, request: requestMessage, configure, inquire, ping, advance, telephones }
type Message = { [T in keyof typeof messages]: InferType<typeof messages[T]> }
export type ToExchange = Exclude<Message[keyof Message], { type: 'request' }> | (Omit<Message['request'], 'request'> & { request: Request })

/**
 * Reads one line from a server.
 * @throws Error with a sentence naming the field, when the line is not a message of this language
 */
export function readToExchange(line: string): ToExchange {
  const said = parse(line)
  const type = said.type as ToExchange['type']
  if (!Object.hasOwn(messages, type)) throw new Error(`type must be one of: ${Object.keys(messages).join(', ')}`)
  if (type !== 'request') return messages[type].validateSync(said, { stripUnknown: true })
  const { id, request, before } = requestMessage.validateSync(said)
  return { type, id, request: readRequest(request), ...(before !== undefined && { before }) }
}

function parse(line: string): Record<string, unknown> {
  let value: unknown
  try {
    value = JSON.parse(line)
  }
  catch {
    throw new Error('a line must hold one JSON object')
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new Error('a line must hold one JSON object')
  return value as Record<string, unknown>
}
