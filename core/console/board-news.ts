import { trunkName } from '../calls/names'
import { lookUp } from '../company/lookups'
import type { DeviceId, EventOf, ExchangeState, LineId, NumberedEvent, Party } from '../calls/model'
import { lettingRing } from '../queues/offers'
import { promiseOf } from '../calls/call-backs/call-backs'
import { channelsFree } from '../calls/questions'
import { spell } from '../durations/durations'
import type { Announcement, Rank } from './announcements'
import { spoken } from '../../words/phrase'
import type { Speaker } from '../../words/speaker'

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
export function boardNews(t: Speaker, state: ExchangeState, event: NumberedEvent, own: DeviceId, nameOf: (device: DeviceId,
  party?: Party | null) => string): Announcement | null {
  const { lines, groups } = state.company
  const tell = (text: string, rank: Rank): Announcement => ({ text, rank, about: null })
  switch (event.type) {
    case 'queueServed':
      return event.state === 'paused' && event.by === null && event.reason === lettingRing
        ? tell(t('tidings.letCallsRingAndNo', { name: nameOf(event.device), name2: nameOf(event.queue) }), 'urgent')
        : null
    case 'openingChanged': {
      const name = (lookUp(lines, event.of) ?? lookUp(groups, event.of))?.name
      return name ? tell(t(event.open ? 'tidings.theNameIsOpen' : 'tidings.theNameIsClosed', { name }), event.by === own ? 'own' : 'calls') : null
    }
    case 'trunkChanged': {
      const channels = t('tidings.countChannel', { count: event.faulty })
      const trouble = event.outBy ? t('tidings.isOutOfService') : event.faulty > 0 ? t('tidings.hasOutOfOrder', { channels }) : t('tidings.isInOrderAgain')
      return tell(`${spoken(t, trunkName(state.company, event.trunk))} ${trouble}${allChannelsBusy(state) ? `. ${t(allBusy)}` : ''}`, event.outBy === own
        ? 'own'
        : 'calls')
    }
    case 'lineOffered':
      if (event.device === own && event.taken) return tell(t('tidings.theIsServedByThe', { line: nameOfLine(t, state, event.line) }), 'urgent')
      return event.to === own ? tell(t('tidings.asksYouToTakeThe', { name: nameOf(event.device), line: nameOfLine(t, state, event.line) }), 'urgent') : null
    case 'callBackPromised':
      return event.by === own ? null : tell(t('tidings.isToBeCalledBackBy', { name: nameOf('', event.party), name2: nameOf(event.queue) }), 'calls')
    case 'callBackLate': {
      const promise = promiseOf(state, event.callBack)
      if (!promise) return null
      return tell(t('tidings.wasPromisedACallBack', { name: nameOf('', promise.party), time: spell(event.at - promise.promisedAt) }), 'urgent')
    }
    case 'callBackAssigned':
    case 'callBackMoved':
    case 'callBackEnded': {
      const promise = promiseOf(state, event.callBack)
      return promise && event.by !== own ? callBackNews(t, event, nameOf('', promise.party), own) : null
    }
    case 'originated':
    case 'delivered':
      // It has taken the last channel.
      return event.trunk && allChannelsBusy(state) ? tell(t(allBusy), 'urgent') : null
    default: return null
  }
}

const nameOfLine = (t: Speaker, { company }: ExchangeState, line: LineId) => lookUp(company.lines, line)?.name ?? t('tidings.aLine')

/** A promise that comes to the operators, or to this one, or that could not be kept. */
function callBackNews(t: Speaker, event: EventOf<'callBackAssigned'> | EventOf<'callBackMoved'> | EventOf<'callBackEnded'>, name: string,
  own: DeviceId): Announcement | null {
  const urgent = (text: string): Announcement => ({ text, rank: 'urgent', about: null })
  switch (event.type) {
    case 'callBackAssigned': return event.to === own ? urgent(t('tidings.youAreToCallBack', { name })) : null
    case 'callBackMoved': return urgent(t('tidings.nobodyHasCalledBackThe', { name }))
    case 'callBackEnded': return event.end === 'unreached' ? urgent(t('tidings.couldNotBeCalledBack', { name })) : null
  }
}

const allBusy = 'tidings.everyLineToTheOutside'
