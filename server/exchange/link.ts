import type { ExchangeState, NumberedEvent, Refusal, Request } from '~~/core/calls/model'
import type { Position } from '~~/shared/feed'

/** The port to a telephone exchange. An adapter for another exchange replaces the stand-in without touching anything else. */
export interface ExchangeLink {
  /** True while requests can be carried out. */
  readonly up: boolean
  /**
   * Carries out a request once, however often its id is repeated.
   * @throws ExchangeUnreachable when the exchange does not answer in time
   */
  request(id: string, request: Request): Promise<ExchangeReply>
  close(): void
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
  /** `events` lead from `state` to the present; `complete` says that none after `since` is missing. */
  welcome(now: number, state: ExchangeState, events: NumberedEvent[], complete: boolean): void
  event(event: NumberedEvent): void
  /** The exchange's time, in milliseconds since 1970. */
  time(now: number): void
  lost(): void
}

export class ExchangeUnreachable extends Error {
  constructor() {
    super('The telephone exchange does not answer. Nothing was changed; the console goes on as soon as it is back.')
  }
}
