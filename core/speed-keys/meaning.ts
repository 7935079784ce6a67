import { awayReasons, type DeviceId } from '../calls/model'
import type { Company } from '../company/company'
import { ownerOfMailbox } from '../calls/names'
import { isOpen } from '../queues/openings'
import { lookUp, telephonesOf, withNumber } from '../company/lookups'
import { ask, type Console, type Deed } from '../console/console'
import { parkingIn, takingFrom, waysTo, waysToNumber } from '../console/ways'
import { formatNumber, readDialled } from '../numbers/dialled'
import type { SpeedKey } from './key'

/** What a speed key does now, or why it does nothing: said beforehand, and done when it is pressed. */
export type Meaning = { words: string, deed: Deed, why?: undefined } | { why: string }

export const awayWords = { lunch: 'at lunch', break: 'on a break', meeting: 'in a meeting', travelling: 'travelling', gone: 'gone for today' } as const

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

/** Why a key can't be put on a page, in a sentence that names the remedy; null when it can. */
export function faultOf(company: Company, key: Pick<SpeedKey, 'kind' | 'of'>): string | null {
  const { kind, of } = key
  if (kind === 'number')
    return readDialled(of, company.settings).kind === 'outside' ? null : `"${of}" is no number that can be dialled outside: write it with its area code.`
  if (kind === 'status')
    return of === 'available' || (awayReasons as readonly string[]).includes(of) ? null : `"${of}" is no status: choose available, ${awayReasons.join(', ')}.`
  if (kind === 'forward')
    return destinationOf(company, of) ? null : `Calls can't be forwarded to "${of}": name an extension, a group, a voicemail or a number outside.`
  if (kind === 'night') return of === 'lines' ? null : `A night key is of "lines", not of "${of}".`
  if (kind === 'opening') return openedBy(company, of) ? null : `There is no line and no queue "${of}".`
  if (kind === 'line') return lookUp(company.lines, of) ? null : `There is no line "${of}".`
  return targetOf(company, key) === null ? `There is no ${kind} "${of}".` : null
}

/** @param shift the second meaning: asks first, rings everybody, or parks in a slot */
export function meaningOf(console: Console, key: SpeedKey, shift: boolean): Meaning {
  const { state } = console
  switch (key.kind) {
    case 'number': return toNumber(console, key.of, shift)
    case 'status': return ownStatus(console, key.of)
    case 'line': return lineServed(console, key.of)
    case 'opening': return opening(console, key.of)
    case 'night': return night(console)
    case 'forward': return forward(console, key.of)
  }
  const target = targetOf(state.company, key)
  if (target === null) return { why: `${key.label ?? 'Whoever this key was for'} is no longer here: take the key off its page.` }
  if (key.kind === 'slot') return atSlot(console, target, shift)
  if (target === console.device) return { why: 'That is your own extension.' }
  return chosen(waysTo(console, target), console.nameOf(target), shift)
}

/** With Shift nobody is passed on blind: where nobody can be asked first, it says so. */
function chosen(ways: ReturnType<typeof waysTo>, name: string, shift: boolean): Meaning {
  const first = ways.find(({ id }) => id === 'passOn' || id === 'call' || id === 'mobile') ?? ways.find(({ key }) => key === 'Enter')
  if (!first) return { why: `${name} has no telephone.` }
  if (!shift || first.id !== 'passOn') return first
  return ways.find(({ id }) => id === 'ask' || id === 'everybody') ?? { why: `${name} can't be asked first now.` }
}

function toNumber(console: Console, number: string, shift: boolean): Meaning {
  const home = console.state.company.settings
  const dialled = readDialled(number, home)
  const shown = dialled.kind === 'outside' ? formatNumber(dialled.e164, home) : number
  return chosen(waysToNumber(console, number, shown), shown, shift)
}

/** Two gestures for two meanings: whether somebody waits there is decided by others, at any moment. */
function atSlot(console: Console, slot: DeviceId, shift: boolean): Meaning {
  const name = console.nameOf(slot)
  const deed = shift ? parkingIn(console, slot) : takingFrom(console, slot)
  if (deed) return { words: shift ? `parks the call in hand in ${name}` : `takes who waits in ${name}`, deed }
  return { why: shift ? `Nothing can be parked in ${name} now.` : `Nobody waits in ${name}. Shift parks there.` }
}

function ownStatus({ state, device }: Console, of: string): Meaning {
  const reason = awayReasons.find(known => known === of) ?? null
  if (state.devices.get(device)?.status.reason === reason) return { why: reason ? `You are ${awayWords[reason]} already.` : 'You are available already.' }
  return { words: reason ? `says that you are ${awayWords[reason]}` : 'says that you are available', deed: ask({ service: 'setStatus', reason, until: null }) }
}

/** The line or queue that a key opens and closes. */
export function openedBy({ lines, groups, settings }: Company, of: string): { id: string, name: string } | undefined {
  const group = lookUp(groups, of)
  return lookUp(lines, of) ?? (group?.distribution === 'queue' && group.id !== settings.operators ? group : undefined)
}

function opening({ state, device }: Console, of: string): Meaning {
  const name = openedBy(state.company, of)?.name
  if (name === undefined) return { why: 'What this key was for is no longer here: take the key off its page.' }
  if (!state.agents.get(device)) return { why: 'Only operators open and close lines and queues.' }
  const open = !isOpen(state, of)
  return { words: `${open ? 'opens' : 'closes'} the ${name}`, deed: ask({ service: 'setOpening', of, open, until: null }) }
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
function forward({ state, device, nameOf }: Console, of: string): Meaning {
  if (!destinationOf(state.company, of)) return { why: 'Where this key led is no longer there: take the key off its page.' }
  const when = state.agents.has(device) ? 'noAnswer' as const : 'always' as const
  const there = state.devices.get(device)?.forwarding?.[when]?.to === of
  const home = state.company.settings
  const dialled = readDialled(of, home)
  const name = dialled.kind === 'outside' ? formatNumber(dialled.e164, home) : nameOf(of)
  const request = { service: 'setForwarding', when, to: there ? null : of } as const
  return { words: there ? 'lets your own calls ring here again' : `forwards your own calls to ${name}`, deed: ask(request) }
}

/** Every line at once: closed while one of them is open, opened when all are closed. Nobody who talks is cut off by it. */
function night({ state, device }: Console): Meaning {
  if (!state.agents.get(device)) return { why: 'Only operators open and close lines.' }
  const lines = Object.keys(state.company.lines)
  const open = !lines.some(line => isOpen(state, line))
  return {
    words: open ? 'opens every line' : 'closes every line for the night',
    deed: { do: 'askAll', requests: lines.filter(line => isOpen(state, line) !== open).map(of => ({ service: 'setOpening', of, open, until: null })) },
  }
}

function lineServed({ state, device }: Console, line: string): Meaning {
  const agent = state.agents.get(device)
  const name = lookUp(state.company.lines, line)?.name
  if (!name) return { why: 'This line is no longer here: take the key off its page.' }
  if (!agent) return { why: 'Only operators serve lines.' }
  const { target } = state.company.lines[line]!
  if (target !== state.company.settings.operators) return { why: `The ${name} is not the operators': it comes to the ${state.company.groups[target]?.name}.` }
  const on = line in agent.unserved
  return { words: on ? `serves the ${name} again` : `leaves the ${name} to the others`, deed: ask({ service: 'setLineServed', line, on, until: null }) }
}
