import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { MikroORM } from '@mikro-orm/postgresql'
import type { DeviceId, NumberedEvent } from '~~/core/calls/model'
import { stateOf } from '~~/core/calls/snapshot'
import { telephonesOf } from '~~/core/company/lookups'
import type { Position } from '~~/shared/feed'
import type { NewsTopic } from '~~/shared/news'
import { CalendarReader } from './calendars/reader'
import { Calendars, whereaboutsChannel } from './calendars/calendars'
import { Passwords } from './accounts/passwords'
import { HouseRulesKeeper } from './accounts/house-rules'
import { Sessions } from './accounts/sessions'
import { SignInLimits } from './accounts/sign-in-limits'
import { CompanyKeeper } from './company/keeper'
import { readCompany } from './company/rows'
import { Notices } from './database/notices'
import { openDatabase } from './database/orm'
import { Attendance } from './exchange-link/attendance'
import { tellWhatIsKept } from './exchange-link/kept'
import { OwnCallers } from './exchange-link/own-callers'
import { type ExchangeLink, ExchangeUnreachable, type History, type LinkListener } from './exchange-link/link'
import { Replica } from './exchange-link/replica'
import { StandInLink } from './exchange-link/stand-in'
import { Hub } from './feed/hub'
import { missedItems } from './journal/again'
import { Journal, lastPosition } from './journal/journal'
import { Spill } from './journal/spill'
import { beginning, gapAfter, itemOf, type JournalItem } from './journal/items'
import { BookReader } from './address-books/book-reader'
import { AddressBooks } from './address-books/books'
import { HouseDirectory } from './house-directory/house-directory'
import { IdentityProvider } from './identity/provider'
import { DayKeeper } from './figures/days'
import { TodayFigures } from './figures/today'
import { Customers, type CustomerSystem } from './customers/customers'
import { MessageSound } from './messages/message-sound'
import { MessageBox } from './messages/messages'
import { Metrics } from './metrics/metrics'
import { OwnSounds } from './own-sounds/own-sounds'
import { Pocketsphinx, type Recogniser } from './recognition/recogniser'
import { TelephoneAccounts } from './telephones/accounts'
import { noSound, type SoundPort, SoundProcess } from './sound-link/sound-process'
import { t } from './language'

/** What the database tells of by a channel of its own, and what that is news of for whoever answers. */
const channels: readonly (readonly [string, NewsTopic])[] = [
  ['dealt_with', 'dealtWith'], ['key_pages', 'keyPages'], ['contacts', 'contacts'], ['shift', 'shift'], ['history', 'history'], ['accounts', 'accounts'],
]

export interface RelayConfig {
  databaseUrl: string
  exchangePort: number
  linkToken: string
  /** Of the sound process on this machine; null: there is none. */
  soundPort: number | null
  /** Where telephones of the network register, as `address:port`; empty: none are served. */
  sip: string
  /** Which program understands names that are spoken; empty: none. */
  recogniser: string
  /** Where the journal keeps what has no room in memory; empty: with the system's temporary files. */
  spillFolder: string
  /** Seals what must be kept secret. */
  secret: string
  /** Origins of our own network from which calendars and address books may be fetched. */
  calendarOrigins: readonly string[]
  /** The house's own customer system; null: there is none. */
  customerSystem: CustomerSystem | null
  /** The programs of the threads that read them. */
  readingProgram: string
  bookProgram: string
  log: (text: string) => void
}

/** Everything that runs in one server: exchange → replica → browsers, and beside it the journal. */
export class Relay implements LinkListener {
  readonly replica = new Replica()
  readonly hub = new Hub(this.replica, delay => metrics.told(delay))
  readonly passwords = new Passwords()
  readonly log: (text: string) => void
  link: ExchangeLink | null = null
  readonly ownCallers = new OwnCallers()
  readonly attendance = new Attendance(devices => this.link?.present(devices))
  readonly rules: HouseRulesKeeper
  readonly sessions: Sessions
  readonly signInLimits: SignInLimits
  readonly messages: MessageBox
  readonly calendars: Calendars
  readonly addressBooks: AddressBooks
  readonly houseDirectory: HouseDirectory
  readonly identity: IdentityProvider
  readonly customers: Customers
  readonly sound: SoundPort
  readonly messageSound: MessageSound | null
  readonly ownSounds: OwnSounds
  readonly telephones: TelephoneAccounts
  readonly recogniser: Recogniser | null
  readonly dayKeeper: DayKeeper
  readonly todayFigures: TodayFigures
  company!: CompanyKeeper
  private readonly notices: Notices
  readonly journal: Journal

  private constructor(readonly orm: MikroORM, private readonly written: Position | undefined, config: RelayConfig) {
    this.log = config.log
    const spill = new Spill<JournalItem>(config.spillFolder || join(tmpdir(), 'estafette-journal'), process.pid)
    this.journal = new Journal(orm, config.log, spill, (since, most) => this.missedAgain(since, most), written)
    this.notices = new Notices(config.databaseUrl)
    this.calendars = new Calendars(orm, new CalendarReader(config.readingProgram), {
      company: () => this.company.current, now: () => this.wallNow, allowed: config.calendarOrigins,
    })
    const outside = { sealedWith: config.secret, allowed: config.calendarOrigins }
    this.addressBooks = new AddressBooks(orm, new BookReader(config.bookProgram, config.calendarOrigins), config.secret)
    this.houseDirectory = new HouseDirectory(orm, outside)
    this.identity = new IdentityProvider(orm, outside)
    this.notices.on(whereaboutsChannel, () => this.hub.newsForAll('whereabouts'))
    this.customers = new Customers(config.customerSystem)
    this.sound = config.soundPort === null ? noSound : new SoundProcess(config.soundPort, config.linkToken)
    this.messageSound = this.hasSound ? new MessageSound(orm, this.sound, config.log, () => this.rules.current.recordingDays) : null
    this.ownSounds = new OwnSounds(orm, this.notices, this.sound, config.log)
    this.recogniser = config.recogniser === '' ? null : new Pocketsphinx(() => this.company.current)
    this.dayKeeper = new DayKeeper(orm, () => this.company.current, () => this.wallNow)
    this.todayFigures = new TodayFigures(orm, () => this.company.current, () => this.wallNow)
    this.messages = new MessageBox(orm, this.notices, (concerned) => {
      this.hub.newsOfMessages(concerned)
      this.telephones.changed()
    })
    this.telephones = new TelephoneAccounts(orm, this.notices, config.sip, {
      unheard: async () => new Map((await this.messages.waiting()).map(({ at, text, voice }) => [at, text + voice])),
      tell: accounts => this.link?.telephones(accounts),
      log: config.log,
    })
    this.notices.onListening(() => this.hub.newsForAll())
    for (const [channel, about] of channels) this.notices.on(channel, () => this.hub.newsForAnswering(about))
    // Of several telephones the first stands for a person.
    this.rules = new HouseRulesKeeper(orm, this.notices, () => this.sessions.rightsChanged())
    this.sessions = new Sessions(
      orm, this.notices, person => telephonesOf(this.company.current, person)[0], sessions => this.sessionsEnded(sessions), this.rules,
    )
    this.signInLimits = new SignInLimits(orm, () => this.rules.current.guesses)
  }

  static async start(config: RelayConfig): Promise<Relay> {
    const orm = await openDatabase(config.databaseUrl)
    // Before the journal takes what an earlier server has left: that may be from the middle of what is missing.
    const relay = new Relay(orm, await lastPosition(orm), config)
    relay.company = await CompanyKeeper.load(() => readCompany(orm.em.fork()), relay.notices, () => relay.companyChanged(), config.log)
    await relay.rules.load()
    void relay.notices.listen()
    void relay.dayKeeper.look()
    relay.link = new StandInLink(config.exchangePort, config.linkToken, relay, config.log)
    relay.telephones.changed()
    return relay
  }

  async stop(): Promise<void> {
    this.link?.close()
    this.hub.close()
    this.sessions.close()
    this.company.close()
    this.passwords.close()
    this.calendars.close()
    this.addressBooks.close()
    this.houseDirectory.close()
    this.dayKeeper.close()
    this.messageSound?.close()
    this.ownSounds.close()
    this.recogniser?.stop()
    await this.notices.close()
    await this.journal.settle()
    this.journal.close()
    await this.orm.close(true)
  }

  since(): Position | undefined {
    const { state } = this.replica
    return state ? { epoch: state.epoch, seq: state.seq } : this.written
  }

  operatorsAmong(devices: DeviceId[]): DeviceId[] {
    const { state } = this.replica
    return devices.filter(device => state?.agents.has(device))
  }

  /** What people's clocks show, in milliseconds since 1970. */
  get wallNow(): number {
    const { state } = this.replica
    return state ? this.replica.now + state.clockOffset : Date.now()
  }

  exchangeNow(): number {
    return this.replica.now
  }

  welcome(now: number, { state: snapshot, events, complete }: History): void {
    this.replica.setTime(now)
    const since = this.since()
    const known = this.replica.state?.epoch === snapshot.epoch && this.replica.state.seq >= snapshot.seq
    if (!known) this.replica.begin(stateOf(snapshot))
    const begins: JournalItem[] = []
    const at = this.replica.now + snapshot.clockOffset
    if (!known && !complete) {
      this.log('exchange link: events were missed that the exchange no longer knows; the journal has a gap there')
      if (since?.epoch === snapshot.epoch) begins.push(gapAfter(since, snapshot.seq + 1, at))
    }
    if (!known && (snapshot.seq === 0 || !complete)) begins.push(beginning(this.replica.state!, at))
    this.journal.add([...begins, ...this.takeAll(events.filter(event => !this.replica.knows(event)))])
    this.hub.setExchange(true)
    if (!known) this.hub.restart()
    // The link takes requests as soon as its welcome is over.
    setImmediate(() => void this.serve(known ? null : snapshot.epoch))
    // Only now it is known what people's clocks show.
    void this.calendars.refresh()
    void this.addressBooks.refresh()
    void this.houseDirectory.refresh()
  }

  /** Tells the exchange which company it serves, and one that has begun anew what outlives it. */
  private async serve(begun: string | null): Promise<void> {
    const { link, replica } = this
    if (!link) return
    await this.company.tell(link, () => replica.state?.company)
    if (begun === null) return
    await tellWhatIsKept(
      this.orm,
      () => this.allWritten(),
      link,
      () => replica.state!,
      () => link.up && replica.state?.epoch === begun,
      this.log,
    )
  }

  get hasSound(): boolean {
    return this.sound !== noSound
  }

  /** Whoever has signed out, or may not any more, sees and hears nothing from now on. */
  private sessionsEnded(sessions: readonly string[]): void {
    this.hub.end(sessions)
    void this.sound.end(sessions)
  }

  private companyChanged(): void {
    this.sessions.telephonesChanged()
    void this.serve(null)
  }

  event(event: NumberedEvent): void {
    if (this.replica.knows(event)) return
    this.replica.setTime(event.at)
    this.journal.add(this.takeAll([event]))
    if (event.type !== 'configured') return
    this.attendance.tell()
    void this.serve(null)
  }

  time(now: number): void {
    const before = this.replica.now
    this.replica.setTime(now)
    if (Math.abs(this.replica.now - before) > 500) this.hub.beat()
  }

  lost(): void {
    this.hub.setExchange(false)
  }

  /** Of what happened since an event, and found no room here, as much as is asked for. */
  private async missedAgain(since: Position | undefined, most: number): Promise<{ items: JournalItem[], all: boolean }> {
    if (!this.link) throw new ExchangeUnreachable()
    const history = await this.link.history(since)
    return missedItems(history, since, this.wallNow, this.replica.state, most)
  }

  /** @throws while the database does not take what has happened */
  private async allWritten(): Promise<void> {
    await this.journal.settle()
    if (!this.journal.healthy) throw new Error('the journal is behind')
  }

  private takeAll(events: NumberedEvent[]): JournalItem[] {
    const items = events.map((event): JournalItem => {
      const { before, after } = this.replica.apply(event)
      return itemOf(event, before, after)
    })
    this.hub.events(events)
    return items
  }
}

let running: Relay | null = null
/** What is measured of this server, also while it still waits for its database. */
export const metrics = new Metrics(() => running)

export function setRelay(relay: Relay | null): void {
  running = relay
}

/** The relay, or null while the server is still waiting for its database. */
export const relayIfAny = () => running

/** @throws while the server is still waiting for its database */
export function useRelay(): Relay {
  if (!running) throw createError({ statusCode: 503, message: t('answers.serverIsStarting') })
  return running
}
