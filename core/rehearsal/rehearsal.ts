import type { Call, CallId, DeviceId, ExchangeState, NumberedEvent, Request } from '../calls/model'
import { awayReasons } from '../calls/model'
import { callsOf, connectionOf, connectionState, othersOf } from '../calls/questions'
import { presenceOf } from '../presence/presence'
import { chanceFrom, type Chance } from '../world/chance'
import type { World } from '../world/merrowby'
import { Agenda } from './agenda'
import { type Caller, inventCaller, outsideNumber } from './callers'

type Intention = (state: ExchangeState, now: number) => Request | null

const second = 1_000
const minute = 60 * second

export interface RehearsalOptions {
  seed: number
  /** Mean time between two outside callers, in milliseconds; null for none. */
  callerEvery: number | null
  /** Whether colleagues call each other, go away and come back. */
  livelyColleagues: boolean
}

/**
 * Simulated callers and colleagues. They know only what people know: they hear events and make requests.
 * All chance comes from the seed, all time from outside: the same seed and the same events give the same requests.
 * Operators are people and are never simulated.
 */
export class Rehearsal {
  private readonly agenda = new Agenda<Intention>()
  private readonly chance: Chance
  private readonly callers = new Map<CallId, Caller>()
  private readonly offered: Caller[] = []
  private readonly operators: Set<DeviceId>
  private readonly colleagues: DeviceId[]

  constructor(private readonly world: World, private readonly options: RehearsalOptions, start: number) {
    this.chance = chanceFrom(options.seed)
    this.operators = new Set(world.operatorsGroup.members)
    this.colleagues = world.people.map(person => person.extension).filter(extension => !this.operators.has(extension))
    if (options.callerEvery !== null) this.agenda.add(start + 3 * second, this.nextCaller)
    if (options.livelyColleagues) this.beginTheDay(start)
  }

  /** When somebody next wants to do something, or null. */
  next(): number | null {
    return this.agenda.next()
  }

  /** The next request that somebody makes at `now`, or null when nobody wants anything more now. */
  take(state: ExchangeState, now: number): Request | null {
    for (;;) {
      const intention = this.agenda.takeDue(now)
      if (!intention) return null
      const request = intention(state, now)
      if (request) return request
    }
  }

  /** Lets everybody hear what happened. `state` is the state after the event. */
  hear(event: NumberedEvent, state: ExchangeState): void {
    if (event.type === 'callCleared') this.callers.delete(event.call)
    if (!('call' in event)) return
    const call = state.calls[event.call]
    if (!call) return
    if (event.type === 'originated') this.recognise(call)
    if (event.type === 'delivered') this.ringing(call, event.device, event.at)
    const caller = this.callers.get(call.id)
    if (caller) this.callerHears(caller, call, event, state)
    else if (event.type === 'established' && !this.operators.has(event.device)) this.colleaguesTalk(call, event.device, event.at)
  }

  private nextCaller: Intention = (state, now) => {
    this.agenda.add(now + this.chance.gap(this.options.callerEvery!), this.nextCaller)
    const caller = inventCaller(this.world, this.chance)
    this.offered.push(caller)
    return { service: 'offerCall', trunk: this.chance.pick(Object.keys(state.trunks)), party: caller.party, number: caller.number }
  }

  /** A new inbound call may be that of a caller we sent; calls offered by others have minds of their own. */
  private recognise(call: Call): void {
    if (call.direction !== 'inbound') return
    const party = connectionOf(call, call.calling)?.party
    const index = this.offered.findIndex(caller => caller.number === call.dialled && caller.party.number === party?.number && caller.party.name === party?.name)
    if (index < 0) return
    const [caller] = this.offered.splice(0, index + 1).slice(-1)
    this.callers.set(call.id, caller!)
    const { id } = call
    this.agenda.add(call.created + caller!.patience, state => this.ifStill(state, id, neverAnswered, device => ({ service: 'clearConnection', device, call: id })))
  }

  private callerHears(caller: Caller, call: Call, event: NumberedEvent, state: ExchangeState): void {
    const say = (delay: number, text: string, when: CallerCondition) =>
      this.agenda.add(event.at + delay, later => this.ifStill(later, call.id, when, device => ({ service: 'sendUserInformation', device, call: call.id, text })))
    const leave = (delay: number, when: CallerCondition) =>
      this.agenda.add(event.at + delay, later => this.ifStill(later, call.id, when, device => ({ service: 'clearConnection', device, call: call.id })))
    if (event.type === 'established') {
      const steps = call.story.length
      const sameTalk: CallerCondition = later => later.story.length === steps && isAnswered(later)
      if (this.operators.has(event.device)) {
        say(1.2 * second, caller.opening, sameTalk)
        say(45 * second, 'Hello, are you still there?', sameTalk)
        leave(5 * minute, sameTalk)
      }
      else if (caller.helpedBy.has(event.device)) {
        say(1.5 * second, caller.thanks, sameTalk)
        leave(caller.talks, sameTalk)
      }
      else {
        say(1.5 * second, caller.wrong, sameTalk)
        leave(12 * second, sameTalk)
      }
    }
    if (event.type === 'held') {
      const waitsSince = event.at
      const stillHeld: CallerCondition = later => othersOf(later, later.calling).some(other => other.state === 'held' && other.since === waitsSince)
      say(30 * second, 'I am still waiting.', stillHeld)
      leave(caller.patience + 40 * second, stillHeld)
    }
    if (event.type === 'queued' && state.calls[call.id]?.recall) {
      say(second, 'Nobody there, it seems.', unanswered)
      leave(caller.patience + 20 * second, unanswered)
    }
  }

  /** Makes the caller do something, if the call is still where it was when they made up their mind. */
  private ifStill(state: ExchangeState, id: CallId, condition: CallerCondition, make: (caller: DeviceId) => Request): Request | null {
    const call = state.calls[id]
    return call && condition(call) ? make(call.calling) : null
  }

  /** A simulated person hears their telephone ring: they answer after some rings, decline, or let it ring. */
  private ringing(call: Call, device: DeviceId, at: number): void {
    if (this.operators.has(device)) return
    const { id } = call
    const still = (request: Request): Intention => state => connectionState(state, id, device) === 'alerting' ? request : null
    const fate = this.chance.next()
    const after = second * (2.5 + this.chance.next() * 9)
    const attentive: Intention = (state, now) => presenceOf(state, device).kind === 'disconnected' || state.devices[device]?.status.reason
      ? null
      : still({ service: 'answerCall', device, call: id })(state, now)
    if (fate < 0.82) this.agenda.add(at + after, attentive)
    else if (fate < 0.88) this.agenda.add(at + after, still({ service: 'clearConnection', device, call: id }))
  }

  /** Calls without an outside caller of ours: somebody hangs up after a while, unless an operator is still talking. */
  private colleaguesTalk(call: Call, device: DeviceId, at: number): void {
    const { id } = call
    if (this.operators.has(call.calling)) {
      const greeting = call.direction === 'outbound' ? 'Hello?' : `${this.firstNameOf(device)} here.`
      this.agenda.add(at + second, state => state.calls[id] ? { service: 'sendUserInformation', device, call: id, text: greeting } : null)
    }
    const length = 15 * second + this.chance.gap(70 * second)
    this.agenda.add(at + length, state => connectionState(state, id, device) === 'connected'
      ? { service: 'clearConnection', device, call: id }
      : null)
  }

  private firstNameOf(device: DeviceId): string {
    return this.world.people.find(person => person.extension === device)?.first ?? device
  }

  private beginTheDay(start: number): void {
    const pace = 180 / Math.max(1, this.colleagues.length)
    const talk: Intention = (state, now) => {
      this.agenda.add(now + this.chance.gap(6 * second * pace), talk)
      const from = this.freeColleague(state)
      const number = this.chance.happens(0.3) ? outsideNumber(this.chance) : this.freeColleague(state)
      return from && number && from !== number ? { service: 'makeCall', device: from, number } : null
    }
    const comeAndGo: Intention = (state, now) => {
      this.agenda.add(now + this.chance.gap(15 * second * pace), comeAndGo)
      return this.changeOfStatus(state, this.chance.pick(this.colleagues), now)
    }
    for (let i = 0; i < this.colleagues.length / 15; i++) this.agenda.add(start + this.chance.gap(8 * second), (state) => {
      const from = this.freeColleague(state)
      const number = this.freeColleague(state)
      return from && number && from !== number ? { service: 'makeCall', device: from, number } : null
    })
    for (let i = 0; i < this.colleagues.length / 8; i++) {
      const device = this.chance.pick(this.colleagues)
      this.agenda.add(start, (state, now) => this.changeOfStatus(state, device, now))
    }
    this.agenda.add(start + 8 * second, talk)
    this.agenda.add(start + 12 * second, comeAndGo)
  }

  private freeColleague(state: ExchangeState): DeviceId | null {
    const device = this.chance.pick(this.colleagues)
    return presenceOf(state, device).lit && callsOf(state, device).length === 0 ? device : null
  }

  private changeOfStatus(state: ExchangeState, device: DeviceId, now: number): Request {
    const present = state.devices[device]!
    if (present.doNotDisturb) return { service: 'setDoNotDisturb', device, on: false }
    if (present.status.reason) return { service: 'setStatus', device, reason: null, until: null }
    if (this.chance.happens(0.25)) return { service: 'setDoNotDisturb', device, on: true }
    const until = Math.ceil((now + this.chance.between(5, 90) * minute) / (5 * minute)) * 5 * minute
    return { service: 'setStatus', device, reason: this.chance.pick(awayReasons), until }
  }
}

type CallerCondition = (call: Call) => boolean

const neverAnswered: CallerCondition = call => !call.story.some(step => step.type === 'established')
const unanswered: CallerCondition = call => !isAnswered(call)

/** Somebody of ours has taken the call and not let go of it. */
function isAnswered(call: Call): boolean {
  return othersOf(call, call.calling).some(other => other.state === 'connected' || other.state === 'held')
}
