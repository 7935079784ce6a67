import { onTheLine } from '../../core/calls/call-backs/call-backs'
import type { CallBackId, CallId, DeviceId, ExchangeState, NumberedEvent, Request } from '../../core/calls/model'
import { callsOf, connectionState } from '../../core/calls/questions'
import { presenceOf } from '../../core/presence/presence'
import type { Company } from '../../core/company/company'
import { chanceFrom, type Chance } from '../company/chance'
import { Agenda, type Intention } from './agenda'
import type { Rehearsal } from './rehearsal'

const second = 1_000
/** After so many attempts to pass a caller on an operator takes leave of them. */
const mostAttempts = 3

/**
 * Simulated operators, for history only: in the demo the operators are people. They answer, listen, pass on to whoever can help (mostly), park, hold,
 * and try again when a caller comes back.
 */
export class Operators {
  private readonly agenda = new Agenda<Intention>()
  private readonly chance: Chance
  private readonly members: Set<DeviceId>
  private readonly attempts = new Map<CallId, number>()

  /** @param slowness how long a caller waits on average before an operator takes the call, in milliseconds */
  constructor(private readonly company: Company, private readonly rehearsal: Rehearsal, seed: number, private readonly slowness: number) {
    this.chance = chanceFrom(seed)
    this.members = new Set(company.groups[company.settings.operators]?.members ?? [])
  }

  next(): number | null {
    return this.agenda.next()
  }

  take(state: ExchangeState, now: number): Request | null {
    for (;;) {
      const intention = this.agenda.takeDue(now)
      if (!intention) return null
      const request = intention(state, now)
      if (request) return request
    }
  }

  hear(event: NumberedEvent): void {
    if (event.type === 'callCleared') this.attempts.delete(event.call)
    if (event.type === 'callBackMoved' || (event.type === 'callBackDeferred' && event.until === null)) this.callBack(event.callBack, event.at)
    if (event.type === 'queued' && event.device === this.company.settings.operators) this.answer(event.call, event.at)
    if ((event.type === 'established' || event.type === 'retrieved') && this.members.has(event.device)) this.listen(event.call, event.device, event.at)
  }

  /** Calls somebody back whom nobody of their queue has called. */
  private callBack(id: CallBackId, at: number): void {
    const act: Intention = (state, now) => {
      const promise = state.callBacks.get(id)
      if (!promise || promise.queue !== this.company.settings.operators || promise.call || promise.notBefore !== null) return null
      const free = [...this.members].find(device => state.agents.get(device)?.attended && callsOf(state, device).length === 0)
      if (free && !onTheLine(state, promise)) return { service: 'makeCallBack', device: free, callBack: id }
      this.agenda.add(now + 30 * second, act)
      return null
    }
    this.agenda.add(at + 20 * second, act)
  }

  private answer(call: CallId, at: number): void {
    const answer: Intention = (state, now) => {
      if (connectionState(state, call, this.company.settings.operators) !== 'queued') return null
      const free = [...this.members].filter(device => state.agents.get(device)?.attended && callsOf(state, device).length === 0)
      if (free.length > 0) return { service: 'answerCall', device: this.chance.pick(free), call }
      this.agenda.add(now + 3 * second, answer)
      return null
    }
    this.agenda.add(at + 2 * second + this.chance.gap(this.slowness), answer)
  }

  /** Hears what the caller wants, and does something about it as long as it is still there to be done. */
  private listen(call: CallId, device: DeviceId, at: number): void {
    const act: Intention = (state, now) => {
      if (connectionState(state, call, device) !== 'connected') return null
      const attempts = (this.attempts.get(call) ?? 0) + 1
      this.attempts.set(call, attempts)
      this.agenda.add(now + 6 * second, act)
      if (attempts > mostAttempts) return { service: 'clearConnection', device, call }
      const to = this.whoHelps(state, call)
      const way = this.chance.next()
      if (way < 0.07 && state.devices.has(to)) return { service: 'parkCall', device, call, slot: null, for: to }
      if (way < 0.15) {
        this.agenda.add(now + (15 + this.chance.gap(20)) * second, later =>
          connectionState(later, call, device) === 'held' ? { service: 'retrieveCall', device, call } : null)
        return { service: 'holdCall', device, call }
      }
      if (way < 0.2) return { service: 'singleStepTransferCall', device, call, to: `mailbox:${to}` }
      return { service: 'singleStepTransferCall', device, call, to }
    }
    this.agenda.add(at + (5 + this.chance.gap(5)) * second, act)
  }

  /** Somebody who can help, free people first; now and then somebody else, by mistake. */
  private whoHelps(state: ExchangeState, call: CallId): DeviceId {
    const helpers = [...this.rehearsal.callerOf(call)?.helpedBy ?? []]
    const anybody = Object.keys(this.company.telephones)
    if (helpers.length === 0 || this.chance.happens(0.05)) return this.chance.pick(anybody)
    const free = helpers.filter(device => presenceOf(state, device).lit)
    return this.chance.pick(free.length > 0 ? free : helpers)
  }
}
