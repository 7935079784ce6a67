import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { MikroORM } from '@mikro-orm/postgresql'
import type { Call, DeviceId, ExchangeState, NumberedEvent } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import { parkingOf } from '~~/core/calls/parkings'
import { type CallRecord, recordOf } from '~~/core/calls/record'
import { stepOf } from '~~/core/calls/evolve'
import type { Position } from '~~/shared/feed'
import { Directory } from './accounts/directory'
import { Passwords } from './accounts/passwords'
import { Sessions } from './accounts/sessions'
import { SignInLimits } from './accounts/sign-in-limits'
import { Notices } from './database/notices'
import { openDatabase } from './database/orm'
import { Attendance } from './exchange/attendance'
import { tellBlocks } from './exchange/blocks'
import type { ExchangeLink, LinkListener } from './exchange/link'
import { Picture } from './exchange/picture'
import { StandInLink } from './exchange/stand-in'
import { Hub } from './feed/hub'
import { Journal } from './journal/journal'
import { Spill } from './journal/spill'
import type { Change, JournalItem } from './journal/tables'
import { Post } from './messages/post'
import { voiceMessageOf } from './messages/voice'

export interface RelayConfig {
  databaseUrl: string
  exchangePort: number
  linkToken: string
  /** Where the journal keeps what has no room in memory; empty: with the system's temporary files. */
  spillFolder: string
  log: (text: string) => void
}

/** Everything that runs in one server: exchange → picture → browsers, and beside it the journal. */
export class Relay implements LinkListener {
  readonly picture = new Picture()
  readonly hub = new Hub(this.picture)
  readonly passwords = new Passwords()
  link: ExchangeLink | null = null
  readonly attendance = new Attendance(devices => this.link?.present(devices))
  readonly sessions: Sessions
  readonly signInLimits: SignInLimits
  readonly post: Post
  private readonly notices: Notices
  private written: Position | undefined

  private constructor(readonly orm: MikroORM, readonly journal: Journal, readonly directory: Directory, databaseUrl: string, readonly log: (text: string) => void) {
    this.notices = new Notices(databaseUrl)
    this.post = new Post(orm, this.notices, concerned => this.hub.news(concerned))
    this.sessions = new Sessions(orm, this.notices, sessions => this.hub.end(sessions))
    this.signInLimits = new SignInLimits(orm)
  }

  static async start(config: RelayConfig): Promise<Relay> {
    const orm = await openDatabase(config.databaseUrl)
    const spill = new Spill<JournalItem>(config.spillFolder || join(tmpdir(), 'estafette-journal'), process.pid)
    const relay = new Relay(orm, new Journal(orm, config.log, spill), await Directory.load(orm), config.databaseUrl, config.log)
    void relay.notices.listen()
    relay.written = await relay.journal.lastPosition()
    relay.link = new StandInLink(config.exchangePort, config.linkToken, relay, config.log)
    return relay
  }

  async stop(): Promise<void> {
    this.link?.close()
    this.hub.close()
    this.sessions.close()
    this.passwords.close()
    await this.notices.close()
    await this.journal.settle()
    this.journal.close()
    await this.orm.close(true)
  }

  since(): Position | undefined {
    const { state } = this.picture
    return state ? { epoch: state.epoch, seq: state.seq } : this.written
  }

  operatorsAmong(devices: DeviceId[]): DeviceId[] {
    const { state } = this.picture
    return devices.filter(device => state && Object.hasOwn(state.agents, device))
  }

  exchangeNow(): number {
    return this.picture.now
  }

  welcome(now: number, state: ExchangeState, events: NumberedEvent[], complete: boolean): void {
    this.picture.setTime(now)
    const known = this.picture.state?.epoch === state.epoch && this.picture.state.seq >= state.seq
    if (!known) {
      if (!complete) this.log('exchange link: events were missed that the exchange no longer knows; the journal has a gap there')
      this.picture.begin(state)
    }
    const items = this.takeAll(events.filter(event => !this.picture.knows(event)))
    if (!known || !complete) items.push(this.presentItem())
    this.journal.add(items)
    this.hub.setExchange(true)
    if (!known) this.hub.restart()
    const { epoch } = state
    // The link takes requests as soon as its welcome is over.
    setImmediate(() => {
      if (this.link) void tellBlocks(this.orm, () => this.allWritten(), this.link, () => this.picture.state!.blocked, () => this.link?.up === true && this.picture.state?.epoch === epoch, this.log)
    })
  }

  event(event: NumberedEvent): void {
    if (this.picture.knows(event)) return
    this.picture.setTime(event.at)
    this.journal.add(this.takeAll([event]))
  }

  time(now: number): void {
    const before = this.picture.now
    this.picture.setTime(now)
    if (Math.abs(this.picture.now - before) > 500) this.hub.beat()
  }

  lost(): void {
    this.hub.setExchange(false)
  }

  /** @throws while the database does not take what has happened */
  private async allWritten(): Promise<void> {
    await this.journal.settle()
    if (!this.journal.healthy) throw new Error('the journal is behind')
  }

  private takeAll(events: NumberedEvent[]): JournalItem[] {
    const items = events.map((event): JournalItem => {
      const { before, after, joined } = this.picture.apply(event)
      const state = this.picture.state!
      return { epoch: state.epoch, seq: event.seq, event, changes: changesOf(state, event, before, after, joined) }
    })
    this.hub.events(events)
    return items
  }

  /** The calls as they are now; whatever else still counts as live has been lost. */
  private presentItem(): JournalItem {
    const state = this.picture.state!
    const { epoch, seq, clockOffset } = state
    const calls = Object.values(state.calls)
    return {
      epoch, seq, event: null,
      changes: [
        ...calls.map((call): Change => ({ kind: 'record', record: onTheWall({ ...recordOf(state, call, null), seq }, clockOffset) })),
        { kind: 'lost', epoch, seq, living: calls.map(({ id }) => id), at: this.picture.now + clockOffset },
      ],
    }
  }
}

/** What an event changes in the tables that are made from the journal. */
function changesOf(state: ExchangeState, event: NumberedEvent, before: Call | undefined, after: Call | undefined, joined: Call | undefined): Change[] {
  const { clockOffset } = state
  const changes: Change[] = []
  const record = (made: CallRecord & { seq: number }) => changes.push({ kind: 'record', record: onTheWall(made, clockOffset) })
  if (event.type === 'numberBlocked') changes.push({ kind: 'block', number: event.number, reason: event.reason, by: event.device, at: event.at + clockOffset })
  if (event.type === 'numberUnblocked') changes.push({ kind: 'unblock', number: event.number })
  const parking = parkingOf(event, before, after)
  if (parking) {
    const wall = (at: number) => at + clockOffset
    changes.push({
      kind: 'parking',
      parking: { ...parking, at: wall(parking.at), endedAt: parking.endedAt === null ? null : wall(parking.endedAt), names: namesOf(state, [parking.by, parking.for, parking.caller, parking.takenBy]) },
    })
  }
  const message = before && voiceMessageOf(event, before, clockOffset)
  if (message) changes.push({ kind: 'voice', message })
  const silent = event.type === 'callInformation' || event.type === 'digitsGenerated' || event.type === 'microphoneMute' || event.type === 'released'
  if (after && !silent) record({ ...recordOf(state, after, null), seq: event.seq })
  else if (before && event.type === 'callCleared') record({ ...recordOf(state, before, stepOf(event)), seq: event.seq })
  if (joined) record(joinedRecord(state, joined, event))
  return changes
}

/** A record with the times that people read. */
function onTheWall(record: CallRecord & { seq: number }, offset: number): CallRecord & { seq: number } {
  if (offset === 0) return record
  const wall = <T extends number | null>(at: T) => (at === null ? null : at + offset) as T
  return { ...record, startedAt: wall(record.startedAt), answeredAt: wall(record.answeredAt), endedAt: wall(record.endedAt), story: record.story.map(step => ({ ...step, at: wall(step.at) })) }
}

/** A consultation that has become part of its caller's call is over, and has been of use. */
function joinedRecord(state: ExchangeState, call: Call, { at, seq, ...event }: NumberedEvent): CallRecord & { seq: number } {
  const end = { at, type: 'callCleared' as const, device: 'device' in event ? event.device : call.calling, cause: 'normalClearing' as const }
  return { ...recordOf(state, call, end), outcome: 'joined', seq }
}

function namesOf(state: ExchangeState, devices: (string | null)[]): Record<string, string> {
  return Object.fromEntries(devices.flatMap((device) => {
    const name = device && deviceName(state, device)
    return device && name ? [[device, name]] : []
  }))
}

let running: Relay | null = null

export function setRelay(relay: Relay | null): void {
  running = relay
}

/** @throws while the server is still waiting for its database */
export function useRelay(): Relay {
  if (!running) throw createError({ statusCode: 503, message: 'The server is starting: its database does not answer yet. Try again in a moment.' })
  return running
}
