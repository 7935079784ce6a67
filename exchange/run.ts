import { randomBytes } from 'node:crypto'
import { nobody } from '../core/company/company'
import { sipAddress } from '../shared/telephone-accounts'
import { readSecretFiles } from '../shared/secret-files'
import { quietState } from '../core/calls/snapshot'
import { type Clock, clockOffset, SteadyClock } from './clock'
import { listen } from './listen'
import { readCarriers } from './sip/carrier'
import { Gate } from './sip/gate'
import { Switch } from './switch'

export interface ExchangeOptions {
  clock: Clock
  /** On loopback; 0 for any that is free. */
  port: number
  /** What people's clocks show, in milliseconds since 1970: those of the machine, unless it is said. */
  wall?: () => number
  /** Called once, when the exchange has been told which company it serves: who plays callers and colleagues comes in now. */
  onCompany?: (exchange: Switch) => void
  /** Telephones of the network: where they are served (`address:port`), and the port of the sound process. */
  sip?: SipValues
}

/**
 * Runs the stand-in exchange as a program of its own, until it is told to stop. It knows nobody until a server tells it which company it serves.
 * The secret that servers say is in ESTAFETTE_LINK_TOKEN.
 */
export async function runExchange({ clock, port: wanted, wall = Date.now, onCompany, sip = {} }: ExchangeOptions): Promise<void> {
  const [fault] = readSecretFiles(process.env, ['ESTAFETTE_LINK_TOKEN', ...sipSecrets])
  if (fault) stop(fault)
  const token = process.env.ESTAFETTE_LINK_TOKEN ?? ''
  if (!token) stop('ESTAFETTE_LINK_TOKEN must hold the secret that servers say to this exchange.')
  const exchange = new Switch(quietState(nobody, { epoch: randomBytes(4).toString('hex'), now: clock.now() }), clock)
  const gate = sip.sip === undefined ? null : await openGate(exchange, sip, token)
  let configured = false
  if (clock instanceof SteadyClock) {
    setInterval(() => {
      const offset = clockOffset(clock.now(), wall(), exchange.state.clockOffset)
      if (offset !== null) exchange.request(`clock:${exchange.state.seq}:${offset}`, { service: 'adjustClock', offset })
    }, 1_000).unref()
  }
  const { port, server } = await listen(exchange, clock, {
    port: wanted, token, log: text => console.error(text),
    onConfigured() {
      if (!configured) onCompany?.(exchange)
      configured = true
    },
    onTelephones: accounts => gate?.know(accounts),
  })
  console.log(`exchange ready on 127.0.0.1:${port}, epoch ${exchange.state.epoch}`)
  process.send?.({ ready: true, port })

  if (gate) console.log(`telephones are served on ${sip.sip}`)
  const leave = () => {
    gate?.close()
    server.close()
    process.exit(0)
  }
  process.once('SIGTERM', leave)
  process.once('SIGINT', leave)
  // Started by another program, it ends with it.
  process.once('disconnect', leave)
}

/** What the command line says of telephones of the network. */
export const sipOptions = { sip: { type: 'string' }, sound: { type: 'string' } } as const
interface SipValues { sip?: string, sound?: string }

/** What it is given in files: for TLS, and who takes its calls to the outside. */
const sipSecrets = ['ESTAFETTE_SIP_TLS_KEY', 'ESTAFETTE_SIP_TLS_CERTIFICATE', 'ESTAFETTE_CARRIERS']

async function openGate(exchange: Switch, { sip, sound }: SipValues, token: string): Promise<Gate> {
  const [, address, port] = sipAddress.exec(sip!)
    ?? stop('--sip must be an address of this machine and a port, as 192.0.2.10:5060.')
  const soundPort = whole(sound ?? stop('--sound must be the port of the sound process: telephones are heard there.'), 'sound')
  const [key, cert, carriers] = sipSecrets.map(name => process.env[name])
  const gate = new Gate(exchange, {
    address: address!.replace(/^\[|\]$/g, ''), port: Number(port), ...key && cert && { tls: { key, cert } },
    carriers: carriers ? carriersOf(carriers) : [], soundPort, token, log: text => console.error(text),
  })
  await gate.open().catch((error: Error) => stop(`Telephones can't be served on ${sip}: ${error.message}`))
  return gate
}

function carriersOf(text: string) {
  try {
    return readCarriers(text)
  }
  catch (error) {
    return stop(`What ESTAFETTE_CARRIERS_FILE names can't be used: ${(error as Error).message}. docs/telephones.md says what stands in it.`)
  }
}

/** A whole number of the command line. */
export function whole(text: string, name: string): number {
  const value = Number(text)
  if (!Number.isSafeInteger(value) || value < 0) stop(`--${name} must be a whole number.`)
  return value
}

/** Ends the program with a sentence that says what to do. */
export function stop(sentence: string): never {
  console.error(sentence)
  process.exit(2)
}
