import { awayReasons, type DeviceId } from '../calls/model'
import type { Company } from '../company/company'
import { ownerOfMailbox } from '../calls/names'
import { isOpen } from '../queues/openings'
import { lookUp, telephonesOf, withNumber } from '../company/lookups'
import { ask, type Console, type Deed } from '../console/console'
import { parkingIn, takingFrom, waysTo, waysToNumber } from '../console/ways'
import { formatNumber, readDialled } from '../numbers/dialled'
import type { SpeedKey } from './key'
import { phrase, type Phrase } from '../../words/phrase'
import type { Speaker } from '../../words/speaker'

/** What a speed key does now, or why it does nothing: said beforehand, and done when it is pressed. */
export type Meaning = { words: string, deed: Deed, why?: undefined } | { why: string }

export const awayWords = { lunch: 'speedKeys.atLunch', break: 'speedKeys.onABreak', meeting: 'speedKeys.inAMeeting', travelling: 'speedKeys.travelling',
  gone: 'speedKeys.goneForToday' } as const

/**
 * The telephone, group or slot that a key leads to; null for one that leads to none, or to what is no more. A person without a telephone stands for
 * themselves.
 */
export function targetOf(company: Company, { kind, of }: Pick<SpeedKey, 'kind' | 'of'>): DeviceId | null {
  switch (kind) {
    case 'person': return lookUp(company.people, of) ? telephonesOf(company, of)[0]?.id ?? of : null
    case 'telephone': return lookUp(company.telephones, of) ? of : null
    case 'group': return lookUp(company.groups, of) ? of : null
    case 'slot': return lookUp(company.slots, of) ? of : null
    case 'zone': return lookUp(company.zones, of) ? of : null
    default: return null
  }
}

/** Why a key can't be put on a page: what to do about it; null when it can. */
export function faultOf(company: Company, key: Pick<SpeedKey, 'kind' | 'of'>): Phrase | null {
  const { kind, of } = key
  if (kind === 'number')
    return readDialled(of, company.settings).kind === 'outside' ? null : phrase('speedKeys.isNoNumberThatCan', { of })
  if (kind === 'status')
    return of === 'available' || (awayReasons as readonly string[]).includes(of)
      ? null
      : phrase('speedKeys.isNoStatusChooseAvailable', { of, others: awayReasons.join(', ') })
  if (kind === 'forward')
    return destinationOf(company, of) ? null : phrase('speedKeys.callsCantBeForwardedTo', { of })
  if (kind === 'night') return of === 'lines' ? null : phrase('speedKeys.aNightKeyIsOf', { of })
  if (kind === 'opening') return openedBy(company, of) ? null : phrase('speedKeys.thereIsNoLineAnd', { of })
  if (kind === 'line') return lookUp(company.lines, of) ? null : phrase('speedKeys.thereIsNoLine', { of })
  return targetOf(company, key) === null ? phrase('speedKeys.thereIsNo', { kind, of }) : null
}

/** @param shift the second meaning: asks first, rings everybody, or parks in a slot */
export function meaningOf(console: Console, key: SpeedKey, shift: boolean): Meaning {
  const { state, t } = console
  switch (key.kind) {
    case 'number': return toNumber(console, key.of, shift)
    case 'status': return ownStatus(console, key.of)
    case 'line': return lineServed(console, key.of)
    case 'opening': return opening(console, key.of)
    case 'night': return night(console)
    case 'forward': return forward(console, key.of)
  }
  const target = targetOf(state.company, key)
  if (target === null) return { why: t('speedKeys.isNoLongerHereTake', { label: key.label ?? t('speedKeys.whoeverThisKeyWasFor') }) }
  if (key.kind === 'slot') return atSlot(console, target, shift)
  if (target === console.device) return { why: t('speedKeys.thatIsYourOwnExtension') }
  return chosen(t, waysTo(console, target), console.nameOf(target), shift)
}

/** With Shift nobody is passed on blind: where nobody can be asked first, it says so. */
function chosen(t: Speaker, ways: ReturnType<typeof waysTo>, name: string, shift: boolean): Meaning {
  const first = ways.find(({ id }) => id === 'passOn' || id === 'call' || id === 'mobile') ?? ways.find(({ key }) => key === 'Enter')
  if (!first) return { why: t('speedKeys.hasNoTelephone', { name }) }
  if (!shift || first.id !== 'passOn') return first
  return ways.find(({ id }) => id === 'ask' || id === 'everybody') ?? { why: t('speedKeys.cantBeAskedFirstNow', { name }) }
}

function toNumber(console: Console, number: string, shift: boolean): Meaning {
  const home = console.state.company.settings
  const dialled = readDialled(number, home)
  const shown = dialled.kind === 'outside' ? formatNumber(dialled.e164, home) : number
  return chosen(console.t, waysToNumber(console, number, shown), shown, shift)
}

/** Two gestures for two meanings: whether somebody waits there is decided by others, at any moment. */
function atSlot(console: Console, slot: DeviceId, shift: boolean): Meaning {
  const { t } = console
  const name = console.nameOf(slot)
  const deed = shift ? parkingIn(console, slot) : takingFrom(console, slot)
  if (deed) return { words: shift ? t('speedKeys.parksTheCallInHand', { name }) : t('speedKeys.takesWhoWaitsIn', { name }), deed }
  return { why: shift ? t('speedKeys.nothingCanBeParkedIn', { name }) : t('speedKeys.nobodyWaitsInShiftParks', { name }) }
}

function ownStatus({ state, device, t }: Console, of: string): Meaning {
  const reason = awayReasons.find(known => known === of) ?? null
  if (state.devices.get(device)?.status.reason === reason) return { why: reason
    ? t('speedKeys.youAreAlready', { status: t(awayWords[reason]) })
    : t('speedKeys.youAreAvailableAlready') }
  return { words: reason
    ? t('speedKeys.saysThatYouAre', { status: t(awayWords[reason]) })
    : t('speedKeys.saysThatYouAreAvailable'), deed: ask({ service: 'setStatus', reason, until: null }) }
}

/** The line or queue that a key opens and closes. */
export function openedBy({ lines, groups, settings }: Company, of: string): { id: string, name: string } | undefined {
  const group = lookUp(groups, of)
  return lookUp(lines, of) ?? (group?.distribution === 'queue' && group.id !== settings.operators ? group : undefined)
}

function opening({ state, device, t }: Console, of: string): Meaning {
  const name = openedBy(state.company, of)?.name
  if (name === undefined) return { why: t('speedKeys.whatThisKeyWasFor') }
  if (!state.agents.get(device)) return { why: t('speedKeys.onlyOperatorsOpenAndClose') }
  const open = !isOpen(state, of)
  return { words: t(open ? 'speedKeys.opensThe' : 'speedKeys.closesThe', { name }), deed: ask({ service: 'setOpening', of, open, until: null }) }
}

/** True for what calls can be sent on to. */
function destinationOf(company: Company, of: string): boolean {
  const dialled = readDialled(of, company.settings)
  const owner = ownerOfMailbox(of)
  const voicemail = owner ? lookUp(company.telephones, owner) ?? lookUp(company.lines, owner) : undefined
  const there = lookUp(company.telephones, of) ?? lookUp(company.groups, of) ?? voicemail
  const number = dialled.kind === 'inside' ? withNumber(company, dialled.digits) : undefined
  return Boolean(there ?? number) || dialled.kind === 'outside'
}

/** One's own calls go there; pressed again, they ring here again. An operator's own calls do so when nobody answers: the lines wait for all operators. */
function forward({ state, device, nameOf, t }: Console, of: string): Meaning {
  if (!destinationOf(state.company, of)) return { why: t('speedKeys.whereThisKeyLedIs') }
  const when = state.agents.has(device) ? 'noAnswer' as const : 'always' as const
  const there = state.devices.get(device)?.forwarding?.[when]?.to === of
  const home = state.company.settings
  const dialled = readDialled(of, home)
  const name = dialled.kind === 'outside' ? formatNumber(dialled.e164, home) : nameOf(of)
  const request = { service: 'setForwarding', when, to: there ? null : of } as const
  return { words: there ? t('speedKeys.letsYourOwnCallsRing') : t('speedKeys.forwardsYourOwnCallsTo', { name }), deed: ask(request) }
}

/** Every line at once: closed while one of them is open, opened when all are closed. Nobody who talks is cut off by it. */
function night({ state, device, t }: Console): Meaning {
  if (!state.agents.get(device)) return { why: t('speedKeys.onlyOperatorsOpenAndCloseLines') }
  const lines = Object.keys(state.company.lines)
  const open = !lines.some(line => isOpen(state, line))
  return {
    words: open ? t('speedKeys.opensEveryLine') : t('speedKeys.closesEveryLineForThe'),
    deed: { do: 'askAll', requests: lines.filter(line => isOpen(state, line) !== open).map(of => ({ service: 'setOpening', of, open, until: null })) },
  }
}

function lineServed({ state, device, t }: Console, line: string): Meaning {
  const agent = state.agents.get(device)
  const name = lookUp(state.company.lines, line)?.name
  if (!name) return { why: t('speedKeys.thisLineIsNoLonger') }
  if (!agent) return { why: t('speedKeys.onlyOperatorsServeLines') }
  const { target } = state.company.lines[line]!
  if (target !== state.company.settings.operators) return { why: t('speedKeys.theIsNotTheOperators', {
    name, name2: state.company.groups[target]?.name ?? '',
  }) }
  const on = line in agent.unserved
  return { words: on
    ? t('speedKeys.servesTheAgain', { name })
    : t('speedKeys.leavesTheToTheOthers', { name }), deed: ask({ service: 'setLineServed', line, on, until: null }) }
}
