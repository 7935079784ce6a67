import { trunkName } from '../calls/names'
import { lookUp } from '../company/lookups'
import type { DeviceId, EventOf, ExchangeState, LineId, NumberedEvent, Party } from '../calls/model'
import { lettingRing } from '../queues/offers'
import { promiseOf } from '../calls/call-backs/call-backs'
import { channelsFree } from '../calls/questions'
import { spell } from '../durations/durations'
import type { Announcement, Rank } from './announcements'

/** What operators hear of queues, lines and trunks, beside the calls of their own track. */

/** True while nobody can call out, and nobody comes in: no channel of any trunk can be taken. */
export function allChannelsBusy(state: ExchangeState): boolean {
  const trunks = Object.keys(state.company.trunks)
  return trunks.length > 0 && trunks.every(trunk => channelsFree(state, trunk) === 0)
}

/**
 * What an event says about the board, or null.
 * @param state as it is afterwards
 * @param own the listener's telephone: what they have done themselves is told as that
 */
export function boardNews(state: ExchangeState, event: NumberedEvent, own: DeviceId, nameOf: (device: DeviceId,
  party?: Party | null) => string): Announcement | null {
  const { lines, groups } = state.company
  const tell = (text: string, rank: Rank): Announcement => ({ text, rank, about: null })
  switch (event.type) {
    case 'queueServed':
      return event.state === 'paused' && event.by === null && event.reason === lettingRing
        ? tell(`${nameOf(event.device)} let calls ring and no longer serves the ${nameOf(event.queue)}`, 'urgent')
        : null
    case 'openingChanged': {
      const name = (lookUp(lines, event.of) ?? lookUp(groups, event.of))?.name
      return name ? tell(`The ${name} is ${event.open ? 'open' : 'closed'}`, event.by === own ? 'own' : 'calls') : null
    }
    case 'trunkChanged': {
      const channels = `${event.faulty} channel${event.faulty === 1 ? '' : 's'}`
      const trouble = event.outBy ? 'is out of service' : event.faulty > 0 ? `has ${channels} out of order` : 'is in order again'
      return tell(`${trunkName(state.company, event.trunk)} ${trouble}${allChannelsBusy(state) ? `. ${busyWords}` : ''}`, event.outBy === own ? 'own' : 'calls')
    }
    case 'lineOffered':
      if (event.device === own && event.taken) return tell(`The ${nameOfLine(state, event.line)} is served by the other now`, 'urgent')
      return event.to === own ? tell(`${nameOf(event.device)} asks you to take the ${nameOfLine(state, event.line)}`, 'urgent') : null
    case 'callBackPromised':
      return event.by === own ? null : tell(`${nameOf('', event.party)} is to be called back by the ${nameOf(event.queue)}`, 'calls')
    case 'callBackLate': {
      const promise = promiseOf(state, event.callBack)
      if (!promise) return null
      return tell(`${nameOf('', promise.party)} was promised a call-back ${spell(event.at - promise.promisedAt)} ago, and waits for it`, 'urgent')
    }
    case 'callBackAssigned':
    case 'callBackMoved':
    case 'callBackEnded': {
      const promise = promiseOf(state, event.callBack)
      return promise && event.by !== own ? callBackNews(event, nameOf('', promise.party), own) : null
    }
    case 'originated':
    case 'delivered':
      // It has taken the last channel.
      return event.trunk && allChannelsBusy(state) ? tell(busyWords, 'urgent') : null
    default: return null
  }
}

const nameOfLine = ({ company }: ExchangeState, line: LineId) => lookUp(company.lines, line)?.name ?? 'line'

/** A promise that comes to the operators, or to this one, or that could not be kept. */
function callBackNews(event: EventOf<'callBackAssigned'> | EventOf<'callBackMoved'> | EventOf<'callBackEnded'>, name: string,
  own: DeviceId): Announcement | null {
  const urgent = (text: string): Announcement => ({ text, rank: 'urgent', about: null })
  switch (event.type) {
    case 'callBackAssigned': return event.to === own ? urgent(`You are to call ${name} back`) : null
    case 'callBackMoved': return urgent(`Nobody has called ${name} back: the call-back comes to the operators`)
    case 'callBackEnded': return event.end === 'unreached' ? urgent(`${name} could not be called back, and was told so`) : null
  }
}

const busyWords = 'Every line to the outside is in use'
