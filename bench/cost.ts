import { decide } from '../core/calls/decide'
import { evolve, numbered } from '../core/calls/evolve'
import type { ExchangeState, NumberedEvent, Request } from '../core/calls/model'
import { quietState } from '../core/calls/snapshot'
import { nextDeadline } from '../core/calls/timers'
import { merrowby } from '../demo/company/merrowby'

/** What one request and one event cost, by the number of telephones and of live calls. */

export interface Cost { telephones: number, calls: number, what: string, microseconds: number }

const operators = 3
const now = Date.UTC(2031, 4, 12, 9)
/** Each figure is the median of so many rounds. */
const rounds = 9
/** A round lasts about so long, in milliseconds. */
const roundMs = 25

/** A quiet exchange with so many telephones, many channels, and operators at their consoles. */
export function quiet(size: number): ExchangeState {
  const company = merrowby(size)
  return quietState(
    { ...company, trunks: { east: { id: 'east', name: 'east', channels: 5_000, kept: 1 } } },
    { epoch: 'bench', now, attended: company.groups.operators!.members },
  )
}

const telephone = (index: number) => `t${2_100 + index}`

function after(state: ExchangeState, request: object): { state: ExchangeState, events: NumberedEvent[] } {
  const decision = decide(state, request as Request, now)
  if ('refusal' in decision) throw new Error(decision.refusal.why.key)
  const events = numbered(state, decision.events, now)
  return { state: events.reduce(evolve, state), events }
}

/** A state with so many calls: colleagues who talk with each other, and callers who wait for the operators. */
function busy(telephones: number, calls: number): { state: ExchangeState, waiting: string, talking: { call: string, device: string } } {
  let state = quiet(telephones)
  const ask = (request: object) => {
    const done = after(state, request)
    state = done.state
    return done.events as (NumberedEvent & { call: string })[]
  }
  const offer = () => ask({ service: 'offerCall', trunk: 'east', party: { number: '+447700900123', name: 'Caller' }, number: '+441632960000' })[0]!.call
  const talking = { call: offer(), device: telephone(0) }
  ask({ service: 'answerCall', ...talking })
  const waiting = offer()
  // Half of the colleagues stay free.
  const pairs = Math.min(Math.floor(calls / 2), Math.floor((telephones - operators) / 4))
  for (let i = 0; i < pairs; i++) {
    const [from, to] = [telephone(telephones - 1 - 2 * i), telephone(telephones - 2 - 2 * i)]
    try {
      const call = ask({ service: 'makeCall', device: from, number: to })[0]!.call
      ask({ service: 'answerCall', device: to, call })
    }
    catch {
      // A desk without a telephone.
    }
  }
  for (let i = pairs + 2; i < calls; i++) offer()
  return { state, waiting, talking }
}

function median(values: number[]): number {
  return values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!
}

/** Microseconds that something takes. */
function timed(what: () => unknown): number {
  const once = () => {
    const begin = process.hrtime.bigint()
    what()
    return Number(process.hrtime.bigint() - begin) / 1e3
  }
  const first = Math.min(once(), once(), once())
  const repeats = Math.max(1, Math.min(2_000, Math.floor(roundMs * 1e3 / first)))
  return Number(median(Array.from({ length: rounds }, () => {
    const begin = process.hrtime.bigint()
    for (let i = 0; i < repeats; i++) what()
    return Number(process.hrtime.bigint() - begin) / 1e3 / repeats
  })).toFixed(1))
}

export function costs(sizes: readonly number[], live: readonly number[]): Cost[] {
  return sizes.flatMap(telephones => live.flatMap((calls) => {
    const { state, waiting, talking } = busy(telephones, calls)
    const request = (asked: object) => () => after(state, asked)
    const held = after(state, { service: 'holdCall', ...talking }).events[0]!
    const whats: Record<string, () => unknown> = {
      'away status': request({ service: 'setStatus', device: telephone(4), reason: 'lunch', until: null }),
      'answer': request({ service: 'answerCall', device: telephone(1), call: waiting }),
      'hold': request({ service: 'holdCall', ...talking }),
      'transfer to a person': request({ service: 'singleStepTransferCall', ...talking, to: telephone(5) }),
      'transfer to a group': request({ service: 'singleStepTransferCall', ...talking, to: 'group:reservations' }),
      'one event': () => evolve(state, held),
      'next deadline': () => nextDeadline(state),
    }
    return Object.entries(whats).map(([what, run]) => ({ telephones, calls, what, microseconds: timed(run) }))
  }))
}

/** Events a second through `evolve`, with so many telephones and live calls: calls that are held and taken back in turn. */
export function rate(telephones: number, calls: number): number {
  const { state: begun, talking } = busy(telephones, calls)
  const [held, retrieved] = [{ type: 'held', ...talking }, { type: 'retrieved', ...talking }] as const
  const count = 60_000
  return Math.round(median(Array.from({ length: 3 }, () => {
    let state = begun
    const events = Array.from({ length: count }, (_, i): NumberedEvent => ({ ...(i % 2 ? retrieved : held), seq: begun.seq + 1 + i, at: now + i }))
    const begin = process.hrtime.bigint()
    for (const event of events) state = evolve(state, event)
    return count / (Number(process.hrtime.bigint() - begin) / 1e9)
  })))
}
