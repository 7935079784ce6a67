import type { Call, CallId, DeviceId, ExchangeState, NumberedEvent, Request } from '../../core/calls/model'
import { isMailbox } from '../../core/calls/names'
import { callsOf, connectionOf, connectionState, othersOf, placesOf } from '../../core/calls/questions'
import { freeMembers } from '../../core/calls/indexes'
import { presenceOf } from '../../core/presence/presence'
import { chanceFrom, type Chance } from '../company/chance'
import type { Company } from '../../core/company/company'
import { Agenda, type Intention } from './agenda'
import { WorkingDay } from './day'
import { type Regular, regularsOf } from '../company/contacts'
import { type Caller, inventCaller, outsideNumber } from './callers'

const second = 1_000
const minute = 60 * second

export interface RehearsalOptions {
  seed: number
  /** Mean time between two outside callers, in milliseconds, at a time; null for none. */
  callerEvery: number | ((now: number) => number) | null
  /** Whether colleagues call each other, go away and come back. */
  livelyColleagues: boolean
  /** Callers begin with one, and come as often as they are to only after ten minutes. */
  grows?: boolean
  /** The department that most callers ask for at a time, when something has happened; null: nothing has. */
  about?: (now: number) => string | null
  /** Added to a time it gives the local one, in milliseconds. */
  localOffset?: number
}

const growing = 10 * minute
/** How much rarer callers are at first. */
const rareAtFirst = 4

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
  private readonly day: WorkingDay
  private opened: number | null = null
  private readonly regulars: Regular[]

  constructor(private readonly company: Company, private readonly options: RehearsalOptions, start: number) {
    this.chance = chanceFrom(options.seed)
    this.operators = new Set(company.groups[company.settings.operators]?.members ?? [])
    this.colleagues = Object.values(company.telephones).filter(({ id, person }) => person !== null && !this.operators.has(id)).map(({ id }) => id)
    this.regulars = regularsOf(company)
    this.day = new WorkingDay(start, options.localOffset ?? 0)
    if (options.callerEvery !== null) this.agenda.add(start, this.open)
    if (options.livelyColleagues) this.beginTheDay(start)
  }

  /** Those who are on the telephone already when it begins do not stay there for ever. */
  join(state: ExchangeState, now: number): void {
    for (const { id, calling, connections } of state.calls.values()) {
      const talker = connections.find(({ device, state: its }) => its === 'connected' && state.devices.has(device) && !this.operators.has(device))
      const at = now + 15 * second + this.chance.gap(minute)
      if (talker) this.agenda.add(at, later => connectionState(later, id, talker.device) ? { service: 'clearConnection', device: calling, call: id } : null)
      else this.agenda.add(at + minute, later => this.ifStill(later, id, unanswered, device => ({ service: 'clearConnection', device, call: id })))
    }
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
      // Whoever holds a handset acts for themselves: nobody simulated does it for them.
      if (request && !('device' in request && actsItself(state, request.device))) return request
    }
  }

  /** Lets everybody hear what happened. `state` is the state after the event. */
  hear(event: NumberedEvent, state: ExchangeState): void {
    if (event.type === 'callCleared') this.callers.delete(event.call)
    if (event.type === 'queueServed' && event.state === 'paused') this.serveAgain(event.device, event.queue, event.at)
    if (!('call' in event)) return
    const call = state.calls.get(event.call)
    if (!call) return
    if (event.type === 'originated') this.recognise(call)
    if (event.type === 'originated' && event.prompted) this.ringing(call, event.device, event.at)
    if (event.type === 'queueAnnounced') this.asksToBeCalled(call, event.device, event.at)
    if (event.type === 'delivered') this.ringing(call, event.device, event.at)
    if (event.type === 'queued') this.waitInQueue(call, event.device, event.at)
    if (event.type === 'parked' && event.for) this.fetch(call, event.for, event.at)
    const met = metBy(event, call)
    const caller = this.callers.get(call.id)
    if (caller) {
      if (met) this.callerMeets(caller, call, met, event.at)
      this.callerHears(caller, call, event, state)
    }
    else if (met && !this.operators.has(met) && !isMailbox(met)) this.colleaguesTalk(call, met, event.at, state)
  }

  /** Some who have waited long enough to hear their place would rather be called back, where it is offered: always the same, by their number. */
  private asksToBeCalled({ id, party }: Call, queue: DeviceId, at: number): void {
    const digits = this.company.groups[queue]?.callBackDigit
    if (!digits || !this.callers.has(id) || !/[05]$/.test(party?.number ?? '')) return
    this.agenda.add(at + 4 * second, later =>
      this.ifStill(later, id, call => placesOf(call)[0] === 'waiting', device => ({ service: 'generateDigits', device, call: id, digits })))
  }

  /** The caller of a call that this rehearsal has sent, as long as it lasts. */
  callerOf(call: CallId): Caller | undefined {
    return this.callers.get(call)
  }

  /** Nobody calls before somebody is at a console. */
  private open: Intention = (state, now) => {
    if ([...state.agents.values()].some(agent => agent.attended)) {
      this.opened = now
      this.agenda.add(now + (this.options.grows ? 6 : 3) * second, this.nextCaller)
    }
    else this.agenda.add(now + second, this.open)
    return null
  }

  private nextCaller: Intention = (state, now) => {
    const rarer = this.options.grows ? Math.max(1, rareAtFirst - (rareAtFirst - 1) * (now - this.opened!) / growing) : 1
    const { callerEvery } = this.options
    this.agenda.add(now + this.chance.gap((typeof callerEvery === 'function' ? callerEvery(now) : callerEvery!) * rarer), this.nextCaller)
    const caller = inventCaller(this.company, this.chance, this.regulars, now + (this.options.localOffset ?? 0), this.options.about?.(now))
    this.offered.push(caller)
    return { service: 'offerCall', trunk: this.chance.pick(Object.keys(state.company.trunks)), party: caller.party, number: caller.number }
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
    this.agenda.add(call.created + caller!.patience, state =>
      this.ifStill(state, id, neverAnswered, device => ({ service: 'clearConnection', device, call: id })),
    )
  }

  /** What a caller says and does a while after something happened, if things are then as they were. */
  private acts(call: CallId, at: number) {
    return {
      say: (delay: number, text: string, when: CallerCondition) =>
        this.agenda.add(at + delay, later => this.ifStill(later, call, when, device => ({ service: 'sendUserInformation', device, call, text }))),
      leave: (delay: number, when: CallerCondition) =>
        this.agenda.add(at + delay, later => this.ifStill(later, call, when, device => ({ service: 'clearConnection', device, call }))),
    }
  }

  /** A caller is put through to somebody, or to a mailbox. */
  private callerMeets(caller: Caller, call: Call, device: DeviceId, at: number): void {
    const { say, leave } = this.acts(call.id, at)
    const steps = call.story.length
    const sameTalk: CallerCondition = later => later.story.length === steps && isAnswered(later)
    if (isMailbox(device)) {
      say(3 * second, `${caller.opening} Please call me back.`, sameTalk)
      leave(9 * second, sameTalk)
    }
    else if (this.operators.has(device)) {
      say(1.2 * second, caller.opening, sameTalk)
      say(45 * second, 'Hello, are you still there?', sameTalk)
      leave(5 * minute, sameTalk)
    }
    else if (caller.helpedBy.has(device)) {
      say(1.5 * second, caller.thanks, sameTalk)
      leave(caller.talks, sameTalk)
    }
    else {
      say(1.5 * second, caller.wrong, sameTalk)
      leave(12 * second, sameTalk)
    }
  }

  private callerHears(caller: Caller, call: Call, event: NumberedEvent, state: ExchangeState): void {
    const { say, leave } = this.acts(call.id, event.at)
    if (event.type === 'held' || event.type === 'parked') {
      const steps = call.story.length
      const stillWaits: CallerCondition = later => later.story.length === steps || placesOf(later)[0] === placesOf(call)[0]
      say(30 * second, 'I am still waiting.', stillWaits)
      leave(caller.patience + 40 * second, stillWaits)
    }
    if (event.type === 'conferenced') {
      say(2 * second, 'Hello, everybody.', isAnswered)
      leave(caller.talks, isAnswered)
    }
    if (event.type === 'queued' && state.calls.get(call.id)?.recall) {
      say(second, 'Nobody there, it seems.', unanswered)
      leave(caller.patience + 20 * second, unanswered)
    }
  }

  /** Makes the caller do something, if the call is still where it was when they made up their mind. */
  private ifStill(state: ExchangeState, id: CallId, condition: CallerCondition, make: (caller: DeviceId) => Request): Request | null {
    const call = state.calls.get(id)
    return call && condition(call) ? make(call.calling) : null
  }

  /** A simulated person hears their telephone ring: they answer after some rings, decline, or let it ring. */
  private ringing(call: Call, device: DeviceId, at: number): void {
    if (this.operators.has(device)) return
    const { id } = call
    const still = (request: Request): Intention => state => connectionState(state, id, device) === 'alerting' ? request : null
    const fate = this.chance.next()
    const after = second * (2.5 + this.chance.next() * 9)
    // Of somebody outside nothing is seen; they answer all the same.
    const isAway = (state: ExchangeState) => state.devices.has(device)
      && (presenceOf(state, device).kind === 'disconnected' || Boolean(state.devices.get(device)!.status.reason))
    const attentive: Intention = (state, now) => isAway(state) ? null : still({ service: 'answerCall', device, call: id })(state, now)
    if (fate < 0.82) this.agenda.add(at + after, attentive)
    else if (fate < 0.88) this.agenda.add(at + after, still({ service: 'clearConnection', device, call: id }))
  }

  /** Somebody who serves a queue takes the call as soon as they are free. */
  private waitInQueue(call: Call, queue: DeviceId, at: number): void {
    if (queue === this.company.settings.operators || this.company.groups[queue]?.ringing !== 'none') return
    const { id } = call
    const attend: Intention = (state, now) => {
      const group = state.company.groups[queue]
      if (!group || connectionState(state, id, queue) !== 'queued') return null
      const device = freeMembers(state, group).find(member => !actsItself(state, member))
      if (device) return { service: 'answerCall', device, call: id }
      this.agenda.add(now + 5 * second, attend)
      return null
    }
    this.agenda.add(at + (3 + this.chance.next() * 10) * second, attend)
  }

  /** Whoever has paused, or was paused for letting calls ring, is back after a while. */
  private serveAgain(device: DeviceId, queue: DeviceId, at: number): void {
    this.agenda.add(at + (1 + this.chance.next() * 4) * minute, state => state.devices.get(device)?.absences?.[queue]?.state === 'paused'
      ? { service: 'setQueueServed', device, queue, state: 'serving' }
      : null)
  }

  /** Whoever a caller is parked for comes to get them, mostly, as soon as they are free. */
  private fetch(call: Call, device: DeviceId, at: number): void {
    if (this.operators.has(device) || !this.chance.happens(0.75)) return
    const { id } = call
    const go: Intention = (state, now) => {
      if (state.calls.get(id)?.parked?.for !== device) return null
      if (presenceOf(state, device).lit) return { service: 'directedPickupCall', device, call: id }
      this.agenda.add(now + 4 * second, go)
      return null
    }
    this.agenda.add(at + (6 + this.chance.next() * 14) * second, go)
  }

  /** Calls without an outside caller of ours: somebody hangs up after a while, unless an operator is still talking. */
  private colleaguesTalk(call: Call, device: DeviceId, at: number, state: ExchangeState): void {
    const { id } = call
    const asked = call.consultation !== null
    const speak = (delay: number, text: string) =>
      this.agenda.add(at + delay, later => connectionState(later, id, device) ? { service: 'sendUserInformation', device, call: id, text } : null)
    if (this.operators.has(call.calling)) {
      speak(second, call.direction === 'outbound' ? 'Hello?' : `${this.firstNameOf(device)} here.`)
      if (asked)
        speak(
          4 * second,
          this.chance.pick([
            'Yes, put them through.',
            'Yes, I have a minute.',
            'Of course, I will take it.',
            'Not now, please. Could they call again at four?',
          ]),
        )
    }
    const length = (asked ? minute : 15 * second) + this.chance.gap(70 * second)
    const steps = state.calls.get(id)?.story.length
    this.agenda.add(at + length, later => connectionState(later, id, device) === 'connected' && later.calls.get(id)!.story.length === steps
      ? { service: 'clearConnection', device, call: id }
      : null)
  }

  private firstNameOf(device: DeviceId): string {
    const person = this.company.telephones[device]?.person
    return (person && this.company.people[person]?.first) || device
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
      this.agenda.add(now + this.chance.gap(8 * second * pace), comeAndGo)
      return this.goAway(state, now)
    }
    for (let i = 0; i < this.colleagues.length / 15; i++) this.agenda.add(start + this.chance.gap(8 * second), (state) => {
      const from = this.freeColleague(state)
      const number = this.freeColleague(state)
      return from && number && from !== number ? { service: 'makeCall', device: from, number } : null
    })
    for (let i = 0; i < this.colleagues.length; i++) this.agenda.add(start, (state, now) => this.goAway(state, now))
    this.agenda.add(start + 8 * second, talk)
    this.agenda.add(start + 12 * second, comeAndGo)
    this.agenda.add(start + 20 * second, this.pause)
  }

  /** Now and then somebody who serves a queue pauses, and says why. */
  private pause: Intention = (state, now) => {
    this.agenda.add(now + this.chance.gap(90 * second), this.pause)
    const { groups, settings } = state.company
    const queue = this.chance.pick(Object.values(groups).filter(({ id, distribution }) => distribution === 'queue' && id !== settings.operators))
    const isFree = (member: DeviceId) => presenceOf(state, member).lit && !state.devices.get(member)?.absences?.[queue.id]
    const serving = queue.members.filter(member => !this.operators.has(member) && isFree(member))
    // Nobody leaves a queue to one colleague alone.
    if (serving.length < 3) return null
    const reason = this.chance.pick(settings.pauseReasons)
    return { service: 'setQueueServed', device: this.chance.pick(serving), queue: queue.id, state: 'paused', reason }
  }

  private freeColleague(state: ExchangeState): DeviceId | null {
    const device = this.chance.pick(this.colleagues)
    return presenceOf(state, device).lit && callsOf(state, device).length === 0 ? device : null
  }

  /** Somebody goes away, as long as no more are away than at this time of the day; they come back at the time they said. */
  private goAway(state: ExchangeState, now: number): Request | null {
    const away = this.colleagues.filter(id => state.devices.get(id)?.status.reason || state.devices.get(id)?.doNotDisturb).length
    if (away + 1 > this.day.awayAt(now) * this.colleagues.length) return null
    const device = this.freeColleague(state)
    if (!device) return null
    const { reason, until } = this.day.absence(now, this.chance)
    return reason === 'doNotDisturb'
      ? { service: 'setDoNotDisturb', device, on: true, until }
      : { service: 'setStatus', device, reason, until }
  }
}

/** The device that a caller or colleague begins to talk to with this event, if any. */
function metBy(event: NumberedEvent, call: Call): DeviceId | null {
  if (event.type === 'established') return event.device
  return event.type === 'transferred' && event.joined && !call.passing ? event.to : null
}

/** Whoever holds the stand-in handset, or has a telephone of their own, acts for themselves. */
function actsItself(state: ExchangeState, device: DeviceId): boolean {
  const { handset, registered } = state.devices.get(device) ?? {}
  return handset === true || registered !== undefined
}

type CallerCondition = (call: Call) => boolean

const neverAnswered: CallerCondition = call => !call.story.some(step => step.type === 'established')
const unanswered: CallerCondition = call => !isAnswered(call)

/** Somebody of ours has taken the call and not let go of it. */
function isAnswered(call: Call): boolean {
  return othersOf(call, call.calling).some(other => other.state === 'connected' || other.state === 'held')
}
