import { array, boolean, type InferType, number, object, string, ValidationError } from 'yup'
import type { UserAgentCore } from 'sip.js/lib/core/index.js'
import type { Peer } from './wire'

/** Who takes our calls to the outside, and brings those from there: what whoever runs the house has agreed with them (docs/telephones.md). */

const protocols = ['udp', 'tcp', 'tls'] as const
const port = () => number().strict().integer().min(1).max(65_535)
/** An address, and a port where not every one of it is meant. */
const source = string().strict()
  .matches(/^(\d{1,3}(\.\d{1,3}){3}|\[[0-9A-Fa-f:.]+\])(:\d{1,5})?$/, '${path} must be an address, as 192.0.2.20 or 192.0.2.20:5060')

export const carrier = object({
  /** The trunk of the company whose channels these are. */
  trunk: string().strict().min(1).max(80).required(),
  /** As the log names it. */
  name: string().strict().min(1).max(40).required(),
  host: string().strict().max(253).matches(/^[A-Za-z0-9.:-]+$/, '${path} must be a name or an address').required(),
  port: port().default(5060),
  protocol: string().oneOf(protocols).default('udp'),
  /** Those of the lowest are tried first; among them each as often as its weight says. */
  priority: number().strict().integer().min(0).max(100).default(0),
  weight: number().strict().integer().min(1).max(1_000).default(1),
  /** From where its calls come: nobody there has to prove who they are. Without it, from `host`. */
  from: array(source.required()).max(50).default([]),
  /** How we prove who we are. */
  account: object({ name: string().strict().min(1).max(80).required(), secret: string().strict().min(1).max(200).required() }).nullable().default(null),
  /** Told where we are: needs an account. */
  registers: boolean().strict().default(false),
}).noUnknown('${path} must not have ${unknown}').strict()
export type Carrier = InferType<typeof carrier>

/** A carrier, and how things stand with it. */
export interface Way extends Carrier {
  core: UserAgentCore
  /** Where it is; null: its name is not known. */
  peer: Peer | null
  isDown: boolean
  /** When it has last asked something of us, by the clock of this machine, in milliseconds. */
  heardAt: number
  /** When it is asked next. */
  timer?: NodeJS.Timeout
}

const carriers = array(carrier.required()).max(50).required()
  .test('names', 'two carriers have the same name', all => new Set(all?.map(({ name }) => name)).size === (all?.length ?? 0))
  .test('registers', 'a carrier that is told where we are (registers) needs an account', all => (all ?? []).every(one => !one.registers || one.account))

/**
 * Reads the carriers of a house.
 * @param text JSON: a list
 * @throws an error that says what is wrong, and where
 */
export function readCarriers(text: string): Carrier[] {
  let value: unknown
  try {
    value = JSON.parse(text)
  }
  catch (error) {
    throw new Error(`it is not JSON: ${(error as Error).message}`, { cause: error })
  }
  try {
    // What is left out is only put in once everything is as it must be.
    return carriers.cast(carriers.validateSync(value, { strict: true, abortEarly: false }))!
  }
  catch (error) {
    if (error instanceof ValidationError) throw new Error(error.errors.join('; '), { cause: error })
    throw error
  }
}

/** The carriers of a trunk in the order in which a call tries them: by priority, then by chance and weight (RFC 2782), and those that do not answer last. */
export function inOrder<C extends Pick<Carrier, 'priority' | 'weight'>>(all: readonly C[], isDown: (carrier: C) => boolean, chance: () => number): C[] {
  const drawn = all.map(carrier => ({ carrier, at: -Math.log(1 - chance()) / carrier.weight }))
  return drawn.sort((a, b) => Number(isDown(a.carrier)) - Number(isDown(b.carrier)) || a.carrier.priority - b.carrier.priority || a.at - b.at)
    .map(({ carrier }) => carrier)
}

/** True where these packets come from one of these sources. */
export function comesFrom(sources: readonly string[], { address, port }: Peer): boolean {
  const plain = address.replace(/^::ffff:/i, '')
  const written = plain.includes(':') ? `[${plain}]` : plain
  return sources.some(one => one === written || one === `${written}:${port}`)
}
