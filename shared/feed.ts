import '../core/schema/wording'
import { type InferType, number, object, string } from 'yup'
import type { Call, NumberedEvent, Outlived, Page } from '../core/calls/model'
import { phrase } from '../words/phrase'
import { Unreadable } from '../core/schema/faults'
import { feedBeat } from './beat'
import type { NewsTopic } from './news'
import type { Picture } from './picture'

/** The live feed: a WebSocket on which a browser says the last event it knows and receives what it missed, then everything. */

/** A position in the one order of events. */
export interface Position { epoch: string, seq: number }

/** Characters. */
const longestMessage = 1_000

const fromBrowser = object({
  /** `here` answers every beat: a console that says nothing more is taken for closed. */
  type: string().oneOf(['hello', 'here']).required(),
  since: object({ epoch: string().strict().max(80).required(), seq: number().strict().integer().min(0).required() }).default(undefined).optional(),
  /** Which feed its page was made for: see `feedVersion`. */
  version: number().strict().integer().optional(),
  /** The version of the configuration that the browser has, if any: it is not sent again. */
  company: number().strict().integer().min(0).optional(),
})
export type FromBrowser = InferType<typeof fromBrowser>

/** A browser that has been silent for so long (milliseconds) has gone, whatever its connection says. */
export const longestSilence = feedBeat * 5

export type ToBrowser
  = | { type: 'snapshot', now: number, exchange: boolean } & Picture
    | { type: 'events', now: number, exchange: boolean, epoch: string, events: NumberedEvent[] }
    | { type: 'beat', now: number, exchange: boolean, epoch: string, seq: number }
  /** Calls at one's own telephone, and what is said to it alone, as they are at `seq`, for those who see no other callers. */
    | { type: 'reveal', epoch: string, seq: number, calls: Call[], outlived: Outlived[], pages: Page[] }
  /** The page was made for another feed: it has to be loaded again. */
    | { type: 'outdated' }
  /** The session is over, or whoever listens may see something else now: sign in, or come again. */
    | { type: 'over' }
  /** Something has changed that is asked for, and no other; without `about` anything may have. */
    | { type: 'news', about?: NewsTopic }
    | { type: 'error', message: string }

/** @throws Unreadable or a schema's fault, when the text is not a message of the feed */
export function readFromBrowser(text: string): FromBrowser {
  if (text.length > longestMessage) throw new Unreadable(phrase('input.tooLongOnFeed', { max: longestMessage }))
  let value: unknown
  try {
    value = JSON.parse(text)
  }
  catch {
    throw new Unreadable(phrase('input.oneObjectOnFeed'))
  }
  return fromBrowser.validateSync(value, { stripUnknown: true })
}
