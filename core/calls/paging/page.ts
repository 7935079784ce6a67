import { phrase } from '../../../words/phrase'
import { object, string } from 'yup'
import { type PageRank, pageRanks, pagingRights, type Telephone } from '../../company/company'
import { accept, holdingTheRest, refuse } from '../answers'
import { beginCall, callIdOf } from '../beginning'
import type { EventKind } from '../event'
import { destination, device, type FieldsOf, idOf, textIfAny } from '../fields'
import { closed, ownPage, pagesHeardAt, pageTarget, reachOfPage } from './pages'
import type { CallEvent, DeviceId, ExchangeState, Page, PageId } from '../model'
import { retimePage } from '../places'
import { callsOf, isConnected } from '../questions'
import type { Service } from '../service'
import { targetOf } from '../targets'
import { plainText } from '../text'

const longestSaid = 600
const mayNotPage = phrase('refusals.onlyOperatorsMaySpeakTo')

const openFields = () => object({ device: device(), to: destination('to'), rank: string().oneOf(pageRanks).required().label('rank') })
const speakFields = () => object({
  device: device(), page: idOf('page', 'page'), text: textIfAny('text', longestSaid), rank: string().oneOf(pageRanks).optional().label('rank'),
})
const closeFields = () => object({ device: device(), page: idOf('page', 'page') })
const intercomFields = () => object({ device: device(), number: destination('number') })

declare module '../model' {
  interface Requests {
    openPage: FieldsOf<typeof openFields>
    speakOnPage: FieldsOf<typeof speakFields>
    closePage: FieldsOf<typeof closeFields>
    intercomCall: FieldsOf<typeof intercomFields>
  }
  interface Events {
    pageOpened: AtPlace & { page: PageId, to: DeviceId, rank: PageRank, waits: boolean, private: boolean, reached: string[], missed: Page['missed'] }
    /** It waited for loudspeakers, which are free now. */
    pageBegun: AtPlace & { page: PageId, reached: string[] }
    /** The speaker is heard, and goes on. */
    pageSpoken: AtPlace & { page: PageId, text: string | null }
    pageClosed: AtPlace & { page: PageId, cause: Cause }
  }
}

const notAtThisRank = phrase('refusals.youHaveNoRightTo')

function mayPage({ mayPage: right }: Telephone, rank: PageRank): boolean {
  return pagingRights.indexOf(rank) <= pagingRights.indexOf(right)
}

/**
 * Speaks to a telephone, a group's telephones or a zone of loudspeakers at once. A call in hand is put on hold: callers never hear it. Where somebody
 * else speaks it waits, or is heard over them when its rank is higher.
 */
export const openPage: Service<'openPage'> = {
  fields: openFields,
  askedBy: ['console'],
  decide({ state, telephone, request: { to, rank } }) {
    const agent = state.agents.get(telephone.id)
    if (!agent) return refuse('notAllowed', mayNotPage)
    // Of whoever has no console open nobody would close the microphone, and their caller on hold would go to others.
    if (!agent.attended) return refuse('notPossibleNow', phrase('refusals.yourConsoleIsNotOpen'))
    if (!isConnected(state, telephone.id)) return refuse('outOfService', phrase('refusals.yourTelephoneIsNotConnected'))
    const target = pageTarget(state, to)
    if ('refusal' in target) return target
    if (!mayPage(telephone, rank)) return refuse('notAllowed', notAtThisRank)
    const id = target.kind === 'zone' ? target.zone.id : target.kind === 'group' ? target.group.id : target.telephone.id
    if (id === telephone.id) return refuse('toSelf', phrase('refusals.thatIsYourOwnTelephone'))
    const reach = reachOfPage(state, telephone.id, target, rank)
    if ('refusal' in reach) return reach
    const { ends, ...reached } = reach
    const before = ownPage(state, telephone.id)
    // One's own intercom that gives way to the page is over, and can't be held.
    const over = new Set(ends.flatMap(event => event.type === 'callCleared' ? [event.call] : []))
    return accept(
      ...(before ? [closed(before, 'normalClearing')] : []),
      ...ends,
      ...holdingTheRest(state, telephone.id, callsOf(state, telephone.id).filter(({ id }) => over.has(id))),
      { type: 'pageOpened', device: telephone.id, page: callIdOf(state), to: id, rank, private: target.kind === 'telephone', ...reached },
    )
  },
}

/** What is said on a page; without a text only that the speaker goes on. What matters more than what was said there before raises the page's rank. */
export const speakOnPage: Service<'speakOnPage'> = {
  fields: speakFields,
  askedBy: ['console'],
  decide({ state, telephone, request: { page: id, text, rank } }) {
    const page = state.pages.get(id)
    if (page?.by !== telephone.id) return refuse('notPossibleNow', phrase('refusals.yourMicrophoneIsClosedThat'))
    if (page.waits) return refuse('notPossibleNow', phrase('refusals.somebodyElseSpeaksThereThat'))
    if (rank !== undefined && !mayPage(telephone, rank)) return refuse('notAllowed', notAtThisRank)
    return accept(
      ...(rank === undefined ? [] : raised(state, page, rank)),
      { type: 'pageSpoken', device: telephone.id, page: id, text: text ? plainText(text, longestSaid) : null },
    )
  },
}

export const closePage: Service<'closePage'> = {
  fields: closeFields,
  askedBy: ['console'],
  decide({ state, telephone, request: { page: id } }) {
    const page = state.pages.get(id)
    return page?.by === telephone.id ? accept(closed(page, 'normalClearing')) : refuse('notPossibleNow', phrase('refusals.yourMicrophoneIsClosedAlready'))
  },
}

/**
 * Calls a colleague whose telephone answers by itself, with its microphone off until they turn it on. On a call, while somebody speaks there, and where
 * calls go to another telephone, it rings as any other.
 */
export const intercomCall: Service<'intercomCall'> = {
  fields: intercomFields,
  askedBy: ['console'],
  decide({ state, telephone, request: { number } }) {
    if (!state.agents.get(telephone.id)) return refuse('notAllowed', mayNotPage)
    const begun = beginCall(state, telephone, number, { except: [telephone.id] })
    if ('refusal' in begun) return begun
    const rings = begun.events.find(event => event.type === 'delivered')
    if (!rings || !answersByItself(state, number, rings.device)) return begun
    const at = { call: rings.call, device: rings.device }
    // No mobile of theirs rings where the telephone answers at once.
    const events = begun.events.filter(event => event.type !== 'delivered' || event.device === rings.device)
    return accept(...events, { type: 'established', ...at, byItself: true }, { type: 'microphoneMute', ...at, on: true })
  },
}

/** The telephone that was meant, and that does nothing else at present: its owner would not know who speaks where their calls go to another. */
function answersByItself(state: ExchangeState, number: string, device: DeviceId): boolean {
  const target = targetOf(state, number)
  return !('refusal' in target) && target.kind === 'device' && target.id === device
    && callsOf(state, device).length === 0 && pagesHeardAt(state, device).length === 0
}

/** The same page with a higher rank reaches whom it did not reach before. */
function raised(state: ExchangeState, page: Page, rank: PageRank): CallEvent[] {
  const target = pageTarget(state, page.to)
  if (pageRanks.indexOf(rank) <= pageRanks.indexOf(page.rank) || 'refusal' in target) return []
  const reach = reachOfPage(state, page.by, target, rank)
  if ('refusal' in reach || reach.waits) return []
  const { ends, ...reached } = reach
  return [...ends, { type: 'pageOpened', device: page.by, page: page.id, to: page.to, rank, private: page.private, ...reached }]
}

function changedPage(state: ExchangeState, next: ExchangeState, id: PageId, change: Partial<Page>): ExchangeState {
  const page = state.pages.get(id)
  return page ? retimePage(state, { ...next, pages: state.pages.set(id, { ...page, ...change }) }, id) : next
}

export const pageOpened: EventKind<'pageOpened'> = {
  evolve(state, next, { device: by, page: id, to, rank, waits, reached, missed, at, private: alone }) {
    const page: Page = { id, by, to, rank, at, waits, heardAt: at, saidAt: at, reached, missed, text: '', private: alone }
    return retimePage(state, { ...next, serial: state.serial + 1, pages: state.pages.set(id, page) }, id)
  },
}

export const pageBegun: EventKind<'pageBegun'> = {
  evolve: (state, next, { page, reached, at }) => changedPage(state, next, page, { waits: false, reached, at, heardAt: at, saidAt: at }),
}

export const pageSpoken: EventKind<'pageSpoken'> = {
  evolve: (state, next, { page, text, at }) => changedPage(state, next, page, { heardAt: at, ...(text !== null && { text, saidAt: at }) }),
  // Whoever's telephone hears it is told by itself (`pagesRevealedTo`).
  redact: event => event.text !== null ? { ...event, text: '' } : event,
  redactState: state => ({ ...state, pages: state.pages.map(page => ({ ...page, text: '' })) }),
}

export const pageClosed: EventKind<'pageClosed'> = {
  evolve: (state, next, { page }) => retimePage(state, { ...next, pages: state.pages.delete(page) }, page),
}
