import { exchangeOf, type ExchangeOptions } from '../world/exchange'
import { merrowby, type World } from '../world/merrowby'
import { decide } from './decide'
import { evolveAll, numbered } from './evolve'
import type { Call, CallId, DeviceId, ExchangeState, Party, Refusal, Request } from './model'

/** A quiet exchange with a clock of its own, to try requests on: for tests. */
export class Tryout {
  state: ExchangeState
  now: number

  constructor(readonly world: World = merrowby(12), options: Partial<ExchangeOptions> = {}) {
    this.now = options.now ?? Date.UTC(2031, 4, 12, 9)
    this.state = exchangeOf(world, { epoch: 'day', attended: world.operatorsGroup.members, ...options, now: this.now })
  }

  /** Carries a request out and gives back why not, if it was refused. */
  ask(request: Request): Refusal | undefined {
    const decision = decide(this.state, request, this.now)
    if ('refusal' in decision) return decision.refusal
    this.state = evolveAll(this.state, numbered(this.state, decision.events, this.now))
    return undefined
  }

  /** Carries a request out that must not be refused. */
  must(request: Request): void {
    const refusal = this.ask(request)
    if (refusal) throw new Error(`${request.service}: ${refusal.sentence}`)
  }

  call(id: CallId): Call {
    return this.state.calls[id]!
  }

  /** A call comes in from outside. */
  offer(number = '+441632960000', party: Party = { number: '+447700900001', name: null }): CallId {
    return this.begins(() => this.must({ service: 'offerCall', trunk: 'east', party, number }))
  }

  /** A call comes in and is answered. */
  inHand(device: DeviceId): CallId {
    const call = this.offer()
    this.must({ service: 'answerCall', device, call })
    return call
  }

  /** Somebody is asked while the caller waits; gives the id of the consultation. */
  consult(device: DeviceId, call: CallId, number: string): CallId {
    return this.begins(() => this.must({ service: 'consultationCall', device, call, number }))
  }

  /** The id of the call that something begins. */
  begins(what: () => void): CallId {
    const before = new Set(Object.keys(this.state.calls))
    what()
    return Object.keys(this.state.calls).find(id => !before.has(id))!
  }

  hangUp(call: CallId, device: DeviceId = this.call(call).calling): Refusal | undefined {
    return this.ask({ service: 'clearConnection', device, call })
  }

  wait(ms: number): void {
    this.now += ms
    this.ask({ service: 'tick' })
  }
}
