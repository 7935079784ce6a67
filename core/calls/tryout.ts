import { english } from '../../words/english'
import { spoken } from '../../words/phrase'
import type { CompanyChange, Part } from '../company/changes'
import type { Company } from '../company/company'
import { smallHouse } from './small-house'
import { decide } from './decide'
import { evolveAll, numbered } from './evolve'
import { type Beginning, quietState } from './snapshot'
import type { Call, CallId, DeviceId, ExchangeState, Party, Refusal, Request } from './model'

/** Why something was refused, as people read it; undefined when it was not. */
export function sentenceOf(refusal: Refusal | undefined): string | undefined {
  return refusal && spoken(english, refusal.why)
}

/** A quiet exchange with a clock of its own, to try requests on: for tests. */
export class Tryout {
  state: ExchangeState
  now: number

  constructor(company: Company = smallHouse(), options: Partial<Beginning> = {}) {
    this.now = options.now ?? Date.UTC(2031, 4, 12, 9)
    this.state = quietState(company, { epoch: 'day', attended: company.groups[company.settings.operators]!.members, ...options, now: this.now })
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
    if (refusal) throw new Error(`${request.service}: ${sentenceOf(refusal)}`)
  }

  /** Changes the company, as an administrator does while calls go on. */
  configure(...changes: CompanyChange[]): Refusal | undefined {
    const { version } = this.state.company
    return this.ask({ service: 'configure', from: version, version: version + 1, changes })
  }

  /** Changes some fields of one thing of the company. */
  change<P extends Part>(part: P, id: string, fields: Partial<Company[P][string]>): void {
    const refusal = this.configure({ part, id, value: { ...this.state.company[part][id], ...fields } } as CompanyChange)
    if (refusal) throw new Error(sentenceOf(refusal))
  }

  call(id: CallId): Call {
    return this.state.calls.get(id)!
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
    const before = new Set(this.state.calls.keys())
    what()
    return [...this.state.calls.keys()].find(id => !before.has(id))!
  }

  /** The same exchange for who plays a scene on it. */
  get quiet() {
    const state = () => this.state
    return {
      get state() { return state() },
      ask: (request: Request) => {
        let refusal: Refusal | undefined
        const call = this.begins(() => { refusal = this.ask(request) })
        return { ...(call && { call }), ...(refusal && { refusal }) }
      },
      moveTo: (at: number) => this.wait(at - this.now),
    }
  }

  hangUp(call: CallId, device: DeviceId = this.call(call).calling): Refusal | undefined {
    return this.ask({ service: 'clearConnection', device, call })
  }

  wait(ms: number): void {
    this.now += ms
    this.ask({ service: 'tick' })
  }
}
