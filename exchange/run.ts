import { randomBytes } from 'node:crypto'
import { nobody } from '../core/company/company'
import { readSecretFiles } from '../shared/secret-files'
import { quietState } from '../core/calls/snapshot'
import { type Clock, clockOffset, SteadyClock } from './clock'
import { listen } from './listen'
import { Switch } from './switch'

export interface ExchangeOptions {
  clock: Clock
  /** On loopback; 0 for any that is free. */
  port: number
  /** What people's clocks show, in milliseconds since 1970: those of the machine, unless it is said. */
  wall?: () => number
  /** Called once, when the exchange has been told which company it serves: who plays callers and colleagues comes in now. */
  onCompany?: (exchange: Switch) => void
}

/**
 * Runs the stand-in exchange as a program of its own, until it is told to stop. It knows nobody until a server tells it which company it serves.
 * The secret that servers say is in ESTAFETTE_LINK_TOKEN.
 */
export async function runExchange({ clock, port: wanted, wall = Date.now, onCompany }: ExchangeOptions): Promise<void> {
  const [fault] = readSecretFiles(process.env, ['ESTAFETTE_LINK_TOKEN'])
  if (fault) stop(fault)
  const token = process.env.ESTAFETTE_LINK_TOKEN ?? ''
  if (!token) stop('ESTAFETTE_LINK_TOKEN must hold the secret that servers say to this exchange.')
  const exchange = new Switch(quietState(nobody, { epoch: randomBytes(4).toString('hex'), now: clock.now() }), clock)
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
  })
  console.log(`exchange ready on 127.0.0.1:${port}, epoch ${exchange.state.epoch}`)
  process.send?.({ ready: true, port })

  const leave = () => {
    server.close()
    process.exit(0)
  }
  process.once('SIGTERM', leave)
  process.once('SIGINT', leave)
  // Started by another program, it ends with it.
  process.once('disconnect', leave)
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
