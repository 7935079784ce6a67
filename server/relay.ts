import type { MikroORM } from '@mikro-orm/postgresql'
import type { Call, ExchangeState, NumberedEvent } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import { parkingOf } from '~~/core/calls/parkings'
import { type CallRecord, recordOf } from '~~/core/calls/record'
import { stepOf } from '~~/core/calls/evolve'
import type { Position } from '~~/shared/feed'
import { Directory } from './accounts/directory'
import { openDatabase } from './database/orm'
import { seedDemo } from './database/demo'
import { Attendance } from './exchange/attendance'
import { Blocks } from './exchange/blocks'
import type { ExchangeLink, LinkListener } from './exchange/link'
import { Picture } from './exchange/picture'
import { StandInLink } from './exchange/stand-in'
import { Hub } from './feed/hub'
import { Journal, type JournalItem } from './journal/journal'
import { Post } from './messages/post'

export interface RelayConfig {
  databaseUrl: string
  exchangePort: number
  linkToken: string
  hashPassword: (password: string) => Promise<string>
  log: (text: string) => void
}

/** Everything that runs in one server: exchange → picture → browsers, and beside it the journal. */
export class Relay implements LinkListener {
  readonly picture = new Picture()
  readonly hub = new Hub(this.picture)
  link: ExchangeLink | null = null
  readonly attendance = new Attendance(this.picture, () => this.link)
  private written: Position | undefined

  private constructor(
    readonly orm: MikroORM,
    readonly journal: Journal,
    readonly directory: Directory,
    readonly post: Post,
    private readonly blocks: Blocks,
    private readonly log: (text: string) => void,
  ) {}

  static async start(config: RelayConfig): Promise<Relay> {
    const orm = await openDatabase(config.databaseUrl)
    await seedDemo(orm.em.fork(), config.hashPassword)
    const journal = new Journal(orm, config.log)
    const post = new Post(orm, config.databaseUrl, concerned => relay.hub.news(concerned), config.log)
    const relay: Relay = new Relay(orm, journal, await Directory.load(orm), post, new Blocks(orm, config.log), config.log)
    relay.written = await journal.lastPosition()
    relay.link = new StandInLink(config.exchangePort, config.linkToken, relay, config.log)
    return relay
  }

  async stop(): Promise<void> {
    this.link?.close()
    this.hub.close()
    this.attendance.close()
    await this.post.close()
    await this.journal.settle()
    this.journal.close()
    await this.orm.close(true)
  }

  since(): Position | undefined {
    const { state } = this.picture
    return state ? { epoch: state.epoch, seq: state.seq } : this.written
  }

  welcome(now: number, state: ExchangeState, events: NumberedEvent[], complete: boolean): void {
    this.picture.setTime(now)
    const known = this.picture.state?.epoch === state.epoch && this.picture.state.seq >= state.seq
    if (!known) {
      if (!complete) this.log('exchange link: events were missed that the exchange no longer knows; the journal has a gap there')
      this.picture.begin(state)
    }
    const items = this.takeAll(events.filter(event => !this.picture.knows(event)))
    if (!known || !complete) items.push(...this.livingRecords())
    this.journal.add(items)
    void this.closeLost()
    this.hub.setExchange(true)
    if (!known) this.hub.restart()
    // The link takes requests as soon as its welcome is over.
    setImmediate(() => {
      this.attendance.exchangeUp()
      if (this.link) void this.blocks.tell(this.link, this.picture.state!.blocked)
    })
  }

  event(event: NumberedEvent): void {
    if (this.picture.knows(event)) return
    this.picture.setTime(event.at)
    this.journal.add(this.takeAll([event]))
    this.attendance.event(event)
  }

  time(now: number): void {
    const before = this.picture.now
    this.picture.setTime(now)
    if (Math.abs(this.picture.now - before) > 500) this.hub.beat()
  }

  lost(): void {
    this.hub.setExchange(false)
  }

  private takeAll(events: NumberedEvent[]): JournalItem[] {
    const items = events.map((event): JournalItem => {
      const { before, after, joined } = this.picture.apply(event)
      const state = this.picture.state!
      if (event.type === 'numberBlocked' || event.type === 'numberUnblocked') void this.blocks.keep(event)
      if (event.type === 'callCleared' && before) void this.post.recorded(event, before)
      const parking = parkingOf(event, before, after)
      return {
        epoch: state.epoch, event,
        records: [...this.recordAfter(event, before, after, state), ...(joined ? [joinedRecord(state, joined, event)] : [])],
        parking: parking && { ...parking, names: namesOf(state, [parking.by, parking.for, parking.caller, parking.takenBy]) },
      }
    })
    this.hub.events(events)
    return items
  }

  private recordAfter(event: NumberedEvent, before: Call | undefined, after: Call | undefined, state: ExchangeState): JournalItem['records'] {
    if (event.type === 'callInformation' || event.type === 'digitsGenerated' || event.type === 'microphoneMute') return []
    if (after) return [{ ...recordOf(state, after, null), seq: event.seq }]
    return before && event.type === 'callCleared' ? [{ ...recordOf(state, before, stepOf(event)), seq: event.seq }] : []
  }

  private livingRecords(): JournalItem[] {
    const state = this.picture.state!
    return Object.values(state.calls).map(call => ({ epoch: state.epoch, event: null, parking: null, records: [{ ...recordOf(state, call, null), seq: state.seq }] }))
  }

  /** After the records so far are written, whatever still counts as live and is not there has been lost. */
  private async closeLost(): Promise<void> {
    try {
      await this.journal.settle()
      const state = this.picture.state!
      await this.journal.closeLost(state.epoch, Object.keys(state.calls), this.picture.now)
    }
    catch (error) {
      this.log(`journal: calls lost by the exchange are not closed yet: ${(error as Error).message}`)
    }
  }
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
