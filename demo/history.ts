import type { ExchangeState, NumberedEvent, Request } from '../core/calls/model'
import { connectionState } from '../core/calls/questions'
import { instantOf } from '../core/calendar/zones'
import { quietState } from '../core/calls/snapshot'
import type { Company } from '../core/company/company'
import { InventedClock } from '../exchange/clock'
import { type Players, Switch } from '../exchange/switch'
import { beginning, type Happened, itemsOf, type JournalItem } from '../server/journal/items'
import { presenceOf } from '../core/presence/presence'
import { type Chance, chanceFrom } from './company/chance'
import { regularsOf } from './company/contacts'
import { Operators } from './rehearsal/operators'
import { Rehearsal } from './rehearsal/rehearsal'

/** Working days of Merrowby Ferries, played through the exchange's own switching part: nothing in them could not have happened. Times are milliseconds. */

const second = 1_000
const hour = 3_600 * second
const dayLong = 24 * hour
const opens = 8 * hour
const closes = 17 * hour
/** After closing time the last callers talk to their end. */
const latest = closes + 2 * hour
const callerEvery = 5 * 60 * second
/** From ten to twelve people book, twice as many as at other times. */
const bookings = { from: 10 * hour, until: 12 * hour, department: 'reservations', share: 0.55 }
const slowness = 6 * second
/** On Mondays everybody calls, and waits longer. */
const mondays = { callerEvery: 4 * 60 * second, slowness: 18 * second }
/** Every so many days the first sailings are cancelled: until eleven everybody calls about it. */
const cancelled = { every: 11, until: 11 * hour, callerEvery: 100 * second, slowness: 14 * second, department: 'control' }
/** From eleven to one this queue has one member there, and the others are at lunch. */
const short = { queue: 'queue:reservations', from: 11 * hour, until: 13 * hour }
/** Somebody in here never answers. */
const silentDepartment = 'accounts'

/** The telephone of a colleague who never answers, so that whoever is put through to them comes back. */
export function silentColleague({ people, telephones }: Company): string | null {
  return Object.values(telephones).find(({ person }) => people[person ?? '']?.department === silentDepartment)?.id ?? null
}
/** So often somebody calls a customer. */
const errandEvery = 25 * 60 * second

const week = 7 * dayLong
/** A Monday: weeks are counted from it, so that a day is always the same, whenever it is made up. */
const firstMonday = Date.UTC(2024, 0, 1)

/** The number of the week in which a time lies, by the days of UTC. */
export function weekOf(at: number): number {
  return Math.floor((at - firstMonday) / week)
}

/** The name of the run of the exchange in which a week was played. */
export function epochOf(weekNumber: number): string {
  return `w${weekNumber}`
}

/**
 * What the journal holds of a week: one list of items for each day on which people worked before `until` (milliseconds since 1970), the first of which begins
 * with a state. Each week is a run of the exchange of its own, so that they can be made up in any order.
 */
export function* historyOf(company: Company, { seed, week: number, until }: { seed: number, week: number, until: number }): Generator<JournalItem[]> {
  const operators = company.groups[company.settings.operators]?.members ?? []
  const monday = firstMonday + number * week
  let state = quietState(company, { epoch: epochOf(number), now: instantOf(company.settings.zone, monday), attended: [] })
  for (let weekday = 0; weekday < 5; weekday++) {
    const begin = instantOf(company.settings.zone, monday + weekday * dayLong)
    if (begin + latest > until) return
    const day = number * 7 + weekday
    const beginnings = weekday === 0 ? [beginning(state, begin)] : []
    const happened: Happened[] = []
    const busy = day % cancelled.every === 4 ? cancelled : weekday === 0 ? mondays : { callerEvery, slowness }
    const clock = new InventedClock(begin + opens)
    const played = new Switch(state, clock)
    played.onEvent((event) => {
      const before = state
      state = played.state
      happened.push({ event, before, after: state })
    })
    played.letIn(new WorkingHours(company, seed * 100_000 + day, begin, busy, operators))
    clock.moveTo(begin + latest)
    yield [...beginnings, ...itemsOf(happened)]
  }
}

/** Callers, colleagues and operators of one day; nobody calls any more once the house has closed. */
class WorkingHours implements Players {
  private readonly rehearsal: Rehearsal
  private readonly operators: Operators
  private readonly chance: Chance
  private readonly numbers: string[]
  /** When somebody next calls a customer. */
  private due: number
  private readonly silent: string | null
  /** Operators who come in the morning, or go when the last caller has gone. */
  private readonly shifts: { at: number, device: string, attended: boolean }[]

  constructor(private readonly company: Company, seed: number, private readonly begin: number, busy: typeof mondays, operators: readonly string[]) {
    const wishes = chanceFrom(seed * 17 + 3)
    const about = (now: number) => {
      if (busy === cancelled && now < begin + cancelled.until) return cancelled.department
      return wishes.happens(bookings.share) ? bookings.department : null
    }
    const every = (now: number) => now >= begin + bookings.from && now < begin + bookings.until ? busy.callerEvery / 2 : busy.callerEvery
    this.rehearsal = new Rehearsal(company, { seed, callerEvery: every, livelyColleagues: false, about }, begin + opens)
    this.silent = silentColleague(company)
    this.shifts = [[opens, true] as const, [latest - 60 * second, false] as const]
      .flatMap(([at, attended]) => operators.map(device => ({ at: begin + at, device, attended })))
    this.operators = new Operators(company, this.rehearsal, seed, busy.slowness)
    this.chance = chanceFrom(seed * 31 + 7)
    this.numbers = regularsOf(company).map(({ number }) => number)
    this.due = begin + opens + this.chance.gap(errandEvery)
  }

  next(): number | null {
    const errand = this.due < this.begin + closes ? this.due : null
    const times = [this.shifts[0]?.at ?? null, this.rehearsal.next(), this.operators.next(), errand].filter(time => time !== null)
    return times.length > 0 ? Math.min(...times) : null
  }

  take(state: ExchangeState, now: number): Request | null {
    if (this.shifts[0] && this.shifts[0].at <= now) {
      const { device, attended } = this.shifts.shift()!
      return { service: 'setAgentState', device, attended }
    }
    for (;;) {
      const request = this.rehearsal.take(state, now) ?? this.operators.take(state, now) ?? this.errand(state, now)
      if (request?.service === 'answerCall' && this.isAway(state, request.device, request.call, now)) continue
      if (request?.service !== 'offerCall' || now < this.begin + closes) return request
    }
  }

  /** Whoever never answers, and at noon all but one of those who serve a queue. */
  private isAway(state: ExchangeState, device: string, call: string, now: number): boolean {
    if (device === this.silent) return true
    const time = now - this.begin
    const [there] = this.company.groups[short.queue]?.members ?? []
    return time >= short.from && time < short.until && device !== there && connectionState(state, call, short.queue) === 'queued'
  }

  /** Colleagues call customers back, mostly on account of something. */
  private errand(state: ExchangeState, now: number): Request | null {
    if (now < this.due || this.due >= this.begin + closes) return null
    this.due = now + this.chance.gap(errandEvery)
    const free = Object.values(state.company.telephones).filter(({ id, person }) => person !== null && !state.agents.has(id) && presenceOf(state, id).lit)
    if (free.length === 0) return null
    const code = this.chance.pick(Object.values(state.company.accountCodes)).code
    const account = this.chance.happens(0.75) ? { account: code } : {}
    return { service: 'makeCall', device: this.chance.pick(free).id, number: this.chance.pick(this.numbers), ...account }
  }

  hear(event: NumberedEvent, state: ExchangeState): void {
    this.rehearsal.hear(event, state)
    this.operators.hear(event)
  }
}
