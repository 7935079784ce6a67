import { phrase, spoken } from '../../../words/phrase'
import type { Speaker } from '../../../words/speaker'
import { type Group, type PageRank, pageRanks, type Telephone, type Zone } from '../../company/company'
import { groupWithNumber, lookUp, telephoneWithNumber } from '../../company/lookups'
import { readDialled } from '../../numbers/dialled'
import { cannotRingWords, nameOf, refuse, type Refused } from '../answers'
import { intercomEnds, unliftedIn } from './intercom'
import type { Call, CallEvent, DeviceId, ExchangeState, Page } from '../model'
import { callsOf, isConnected, talkingCallOf } from '../questions'

/** Speaking to telephones and loudspeakers at once: whom it reaches, who hears it now, and when it must end. */

type PageTarget = { kind: 'telephone', telephone: Telephone } | { kind: 'group', group: Group } | { kind: 'zone', zone: Zone }

const above = (one: PageRank, other: PageRank) => pageRanks.indexOf(one) - pageRanks.indexOf(other)

/** Whom a page is for, by id or by number inside. */
export function pageTarget({ company }: ExchangeState, to: string): PageTarget | Refused {
  const dialled = readDialled(to, company.settings)
  const digits = dialled.kind === 'inside' ? dialled.digits : ''
  const zone = lookUp(company.zones, to) ?? Object.values(company.zones).find(({ number }) => number === digits)
  if (zone) return { kind: 'zone', zone }
  const group = lookUp(company.groups, to) ?? groupWithNumber(company, digits)
  if (group) return { kind: 'group', group }
  const telephone = lookUp(company.telephones, to) ?? telephoneWithNumber(company, digits)
  return telephone ? { kind: 'telephone', telephone } : refuse('unallocatedNumber', phrase('refusals.thereIsNoTelephoneGroup', { to }))
}

export function openPages(state: ExchangeState): Page[] {
  return [...state.pages.values()].filter(({ waits }) => !waits)
}

/** The page that somebody speaks on, or waits to speak on. */
export function ownPage(state: ExchangeState, device: DeviceId): Page | undefined {
  return [...state.pages.values()].find(({ by }) => by === device)
}

/**
 * Who hears a page now: whoever of a group talks to somebody meanwhile does not; of one telephone its owner does, also while they talk. Where a page of
 * higher rank speaks at a telephone, that one alone is heard.
 */
export function hearersOf(state: ExchangeState, page: Page): string[] {
  const higher = openPages(state).filter(other => above(other.rank, page.rank) > 0).map(other => new Set(soundsAt(state, other)))
  return soundsAt(state, page).filter(one => !higher.some(sounds => sounds.has(one)))
}

/** Where a page would be heard if nobody else spoke. */
function soundsAt(state: ExchangeState, page: Page): string[] {
  if (page.waits || page.private) return page.waits ? [] : page.reached
  const { zones, groups } = state.company
  const zone = lookUp(zones, page.to)
  // Whoever has left the group since, or a loudspeaker that belongs to another zone now, hears nothing of it.
  const meant = new Set(zone?.speakers ?? lookUp(groups, page.to)?.members)
  return page.reached.filter(one => meant.has(one) && (zone !== undefined || !talkingCallOf(state, one)))
}

/** The open pages that a telephone hears. */
export function pagesHeardAt(state: ExchangeState, device: DeviceId): Page[] {
  return openPages(state).filter(page => page.reached.includes(device) && hearersOf(state, page).includes(device))
}

/** Pages of others that sound at some of these loudspeakers, the highest rank first. */
export function speakingAt(state: ExchangeState, speakers: readonly string[], except?: DeviceId): Page[] {
  return openPages(state)
    .filter(({ by, to, reached }) => by !== except && lookUp(state.company.zones, to) && reached.some(speaker => speakers.includes(speaker)))
    .sort((a, b) => above(b.rank, a.rank) || a.at - b.at)
}

/** Whom a page would reach and whom not, or why it can't begin. `ends`: who spoke there and gives way. `waits`: somebody speaks there. */
export function reachOfPage(
  state: ExchangeState, by: DeviceId, target: PageTarget, rank: PageRank,
): Pick<Page, 'reached' | 'missed' | 'waits'> & { ends: CallEvent[] } | Refused {
  if (target.kind === 'zone') {
    const { speakers } = target.zone
    const others = speakingAt(state, speakers, by)
    const waits = others.some(other => above(other.rank, rank) >= 0)
    return { reached: waits ? [] : speakers, missed: [], waits, ends: waits ? [] : others.map(other => closed(other, 'preempted')) }
  }
  const members = target.kind === 'group' ? target.group.members.filter(member => member !== by) : [target.telephone.id]
  const missed = members.flatMap((device) => {
    const cause = whyMissed(state, device, by, rank, target.kind === 'telephone')
    return cause ? [{ device, cause }] : []
  })
  const reached = members.filter(member => !missed.some(({ device }) => device === member))
  if (reached.length > 0) return { reached, missed, waits: false, ends: givingWay(state, by, reached) }
  if (target.kind === 'group') return refuse('nobodyFree', phrase('refusals.nobodyInCanHearYou', { name: target.group.name }))
  const { name } = target.telephone
  const [{ cause }] = missed as [Page['missed'][number]]
  if (cause === 'busy') return refuse('busy', phrase('refusals.somebodyElseIsSpeakingTo', { name }))
  const why = cause === 'doNotDisturb' ? 'doNotDisturb' : 'outOfService'
  return refuse(why, phrase('common.whoDoes', { who: name, does: { key: cannotRingWords[why] } }))
}

/** Whoever speaks to one of these telephones alone, on a page of lower rank or to where nobody has lifted, is heard there no more. */
function givingWay(state: ExchangeState, by: DeviceId, reached: readonly DeviceId[]): CallEvent[] {
  const pages = openPages(state).filter(page => page.private && page.by !== by && reached.includes(page.to))
  const intercoms = reached.flatMap(device => intercomAt(state, device) ?? [])
  return [...pages.map(page => closed(page, 'preempted')), ...intercoms.map(call => intercomEnds(call, 'preempted'))]
}

/** The call that a telephone has answered by itself. */
function intercomAt(state: ExchangeState, device: DeviceId): Call | undefined {
  return callsOf(state, device).find(call => unliftedIn(call)?.device === device)
}

/** Of a group whoever talks is left in peace; one telephone is spoken to also while its owner talks, and only they hear it. */
function whyMissed(state: ExchangeState, device: DeviceId, by: DeviceId, rank: PageRank, alone: boolean): 'outOfService' | 'doNotDisturb' | 'busy' | null {
  if (!isConnected(state, device)) return 'outOfService'
  if (state.devices.get(device)?.doNotDisturb && above(rank, state.company.settings.pageOverDoNotDisturb) < 0) return 'doNotDisturb'
  const intercom = intercomAt(state, device)
  // Speaking to a telephone that answers by itself counts as an ordinary page of it.
  if (intercom ? rank === 'ordinary' && intercom.calling !== by : !alone && talkingCallOf(state, device)) return 'busy'
  const others = openPages(state).filter(other => other.by !== by && other.reached.includes(device))
  return others.some(other => above(other.rank, rank) >= 0) ? 'busy' : null
}

/**
 * What must hold for pages after everything that happens: the speaker is there and talks to nobody else, whoever is spoken to alone has a telephone, and
 * what waited for loudspeakers begins when they are free, the highest rank first.
 */
export function pagesAfterwards(state: ExchangeState): CallEvent[] {
  const { zones, groups } = state.company
  const ends = [...state.pages.values()].flatMap((page) => {
    if (!maySpeakOn(state, page)) return [closed(page, 'normalClearing')]
    const there = page.private ? isConnected(state, page.to) : lookUp(zones, page.to) ?? lookUp(groups, page.to)
    return there ? [] : [closed(page, 'outOfService')]
  })
  if (ends.length > 0) return ends
  const taken = new Set<string>()
  return [...state.pages.values()].filter(({ waits }) => waits).sort((a, b) => above(b.rank, a.rank) || a.at - b.at).flatMap((page): CallEvent[] => {
    const { speakers } = lookUp(zones, page.to)!
    if (speakingAt(state, speakers, page.by).length > 0 || speakers.some(speaker => taken.has(speaker))) return []
    for (const speaker of speakers) taken.add(speaker)
    return [{ type: 'pageBegun', device: page.by, page: page.id, reached: speakers }]
  })
}

function maySpeakOn(state: ExchangeState, { by }: Page): boolean {
  return Boolean(isConnected(state, by) && state.agents.get(by)?.attended && !talkingCallOf(state, by))
}

export function closed(page: Page, cause: 'normalClearing' | 'outOfService' | 'preempted' | 'noAnswer' | 'busy'): CallEvent {
  return { type: 'pageClosed', device: page.by, page: page.id, cause }
}

/** Who speaks there, for a sentence. */
export function speakerWords(t: Speaker, state: ExchangeState, pages: readonly Page[]): string {
  const names = pages.map(({ by }) => spoken(t, nameOf(state, by)))
  return names.length < 2 ? names.join('') : t('common.oneAndOther', { one: names.slice(0, -1).join(', '), other: names.at(-1)! })
}
