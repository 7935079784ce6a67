import type { ExchangeState, NumberedEvent, Request } from '../core/calls/model'
import { connectionState } from '../core/calls/questions'
import { instantOf } from '../core/calendar/zones'
import { quietState } from '../core/calls/snapshot'
import type { Company } from '../core/company/company'
import { InventedClock } from '../exchange/clock'
import { type Players, Switch } from '../exchange/switch'
import { beginning, itemOf, type JournalItem } from '../server/journal/items'
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
const callerEvery = 7 * 60 * second
const slowness = 6 * second
/** On Mondays everybody calls, and waits longer. */
const monday = { callerEvery: 4 * 60 * second, slowness: 18 * second }
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

export interface HistoryOptions {
  seed: number
  /** How many days of the calendar; nobody calls at weekends. */
  days: number
  /** Milliseconds since 1970: everything has happened before. */
  until: number
}

/** What the journal holds of the days: one list of items a day, the first of which begins with a state. */
export function* historyOf(company: Company, { seed, days, until }: HistoryOptions): Generator<JournalItem[]> {
  const midnight = Math.floor(until / dayLong) * dayLong
  const operators = company.groups[company.settings.operators]?.members ?? []
  const start = midnight - days * dayLong
  let state = quietState(company, { epoch: `history-${seed}`, now: start, attended: [] })
  for (let day = 0; day < days; day++) {
    const begin = instantOf(company.settings.zone, start + day * dayLong)
    const weekday = new Date(start + day * dayLong).getUTCDay()
    const items = day === 0 ? [beginning(state, start)] : []
    if (weekday >= 1 && weekday <= 5) {
      const busy = day % cancelled.every === 4 ? cancelled : weekday === 1 ? monday : { callerEvery, slowness }
      const clock = new InventedClock(begin + opens)
      const played = new Switch(state, clock)
      played.onEvent((event) => {
        const before = state
        state = played.state
        items.push(itemOf(event, before, state))
      })
      played.letIn(new WorkingHours(company, seed * 1_000 + day, begin, busy, operators))
      clock.moveTo(begin + latest)
    }
    if (items.length > 0) yield items
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

  constructor(private readonly company: Company, seed: number, private readonly begin: number, busy: typeof monday, operators: readonly string[]) {
    const about = (now: number) => busy === cancelled && now < begin + cancelled.until ? cancelled.department : null
    this.rehearsal = new Rehearsal(company, { seed, callerEvery: busy.callerEvery, livelyColleagues: false, about }, begin + opens)
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
