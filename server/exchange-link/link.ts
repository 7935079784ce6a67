import type { DeviceId, NumberedEvent, Refusal, Request } from '~~/core/calls/model'
import type { Snapshot } from '~~/core/calls/snapshot'
import type { CompanyChange } from '~~/core/company/changes'
import type { Position } from '~~/shared/feed'
import type { TelephoneAccount } from '~~/shared/telephone-accounts'
import { t } from '../language'

/** The port to a telephone exchange. An adapter for another exchange replaces the stand-in without touching anything else. */
export interface ExchangeLink {
  /** True while requests can be carried out. */
  readonly up: boolean
  /** When it last said anything, in milliseconds since 1970, and why it was last lost or not reached, in a sentence. */
  readonly lastHeard: number | null
  readonly lastProblem: string | null
  /** Does not wait with the next attempt to reach it. Resolves once that has succeeded or failed, and at once while it is reached. */
  tryNow(): Promise<void>
  /**
   * Carries out a request once, however often its id is repeated.
   * @throws ExchangeUnreachable when it can't be asked; ExchangeSilent when it was asked and does not answer in time, and won't carry it out later
   */
  request(id: string, request: Request): Promise<ExchangeReply>
  /**
   * What became of a request; null when it was not carried out, and will not be.
   * @throws ExchangeUnreachable when it can't be asked
   */
  inquire(id: string): Promise<ExchangeReply | null>
  /**
   * Tells the exchange how the company has changed since version `from` of its configuration; an exchange that has begun anew has version 0 and knows nobody.
   * @throws ExchangeUnreachable, ExchangeSilent
   */
  configure(from: number, version: number, changes: CompanyChange[]): Promise<ExchangeReply>
  /**
   * What has happened since an event, beside what is told anyway.
   * @throws ExchangeUnreachable when it can't be asked
   */
  history(since: Position | undefined): Promise<History>
  /** Which telephones of the network may register from now on; said again to an exchange that comes back. */
  telephones(accounts: TelephoneAccount[]): void
  /** Says at once, and with every beat from now on, whose consoles are open here. */
  present(devices: DeviceId[]): void
  close(): void
}

/** `events` lead from `state` to the present; `complete` says that none after the event that was named is missing. */
export interface History {
  state: Snapshot
  events: NumberedEvent[]
  complete: boolean
}

export interface ExchangeReply {
  seq: number
  call?: string
  refusal?: Refusal
}

/** What a link tells its server. */
export interface LinkListener {
  /** The last event that is safely kept, if any. */
  since(): Position | undefined
  /** What has happened after `since`. */
  welcome(now: number, history: History): void
  event(event: NumberedEvent): void
  /** The exchange's time, in milliseconds. */
  time(now: number): void
  /** Those of some devices that are operators': nobody else's consoles matter to the exchange. */
  operatorsAmong(devices: DeviceId[]): DeviceId[]
  /** The exchange's time now, as far as it is known. */
  exchangeNow(): number
  lost(): void
}

export class ExchangeUnreachable extends Error {
  constructor() {
    super(t('answers.exchangeIsAway'))
  }
}

/** The exchange could not read a request; its sentence says why. */
export class NotUnderstood extends Error {}

export class ExchangeSilent extends Error {
  constructor() {
    super(t('answers.exchangeSaysNothing'))
  }
}
