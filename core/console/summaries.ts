import type { Call } from '../calls/model'
import { connectionOf } from '../calls/questions'
import { tellStory } from '../calls/story'
import { spell } from '../durations/durations'
import { formatNumber } from '../numbers/dialled'
import { promisedTo } from './call-backs'
import { type Console, otherName } from './console'
import type { Ribbon } from './track'

/** What the eye gets at a glance, in a few words for who asks for it by a key. */

type Situation = Pick<Console, 'state' | 'device' | 'track' | 'nameOf'> & { now: number, lineName: (call: Call) => string }

/** What was said may bring its own full stop. */
const list = (parts: string[]) => parts.map(part => /[.!?]$/.test(part) ? part : `${part}.`).join(' ')

/** Who waits to be answered and how long, the next one first. */
export function whoWaits({ track: { arriving, next }, device, nameOf, now, lineName }: Situation): string {
  if (!next) return 'Nobody is waiting.'
  const tell = ({ call, due }: Ribbon) => `${otherName(call, device, nameOf)}, ${call.recall ? 'back' : lineName(call)}, ${spell(now - due.since)}`
  const others = arriving.filter(ribbon => ribbon !== next)
  return list([`${arriving.length} waiting`, `Next: ${tell(next)}`, ...others.map(tell)])
}

/** Where everybody is whom the operator holds, asks for, has parked or passed on. */
export function whereabouts({ state, track: { held, askedFor, consultation, passedOn }, device, nameOf, now }: Situation): string {
  const name = (call: Call) => otherName(call, device, nameOf)
  const parked = [...state.calls.values()].filter(call => call.parked?.by === device)
  const parts = [
    ...(askedFor && consultation ? [`${name(askedFor)} waits while you ask ${name(consultation)}`] : []),
    ...held.filter(({ call }) => call.id !== askedFor?.id).map(({ call, due }) => `On hold: ${name(call)}, ${spell(now - due.since)}`),
    ...parked.map(call => `${nameOf(call.parked!.slot)}: ${nameOf(call.calling, call.party)}, ${spell(now - call.parked!.at)}`),
    ...passedOn.map(({ call, due }) => `${name(call)} ${call.passing ? `rings at ${nameOf(call.passing.to)}` : 'talks outside'}, ${spell(now - due.since)}`),
  ]
  return parts.length > 0 ? list(parts) : 'Nobody on hold, parked or under way.'
}

/** The call in hand, or the one that Enter would answer: its line, who it is, and what was said or happened last. */
export function thisCall({ state, track: { open, next, consultation, askedFor }, device, nameOf, now, lineName }: Situation): string {
  const ribbon = open ?? next
  if (!ribbon) return 'No call in hand.'
  const { call, due } = ribbon
  const number = call.party?.name ? call.party.number && formatNumber(call.party.number, state.company.settings) : null
  const last = tellStory(call.story, nameOf).at(-1)
  return list([
    `${open ? 'In hand' : 'Next'}: ${otherName(call, device, nameOf)}`,
    ...(number ? [number] : []),
    ...(consultation?.id === call.id ? [] : [lineName(call)]),
    ...(consultation?.id === call.id && askedFor ? [`Asked for ${otherName(askedFor, device, nameOf)}`] : []),
    spell(now - due.since),
    ...promisedTo(state, call).map(({ queue }) => `Promised a call-back by ${nameOf(queue)}`),
    ...(open && connectionOf(call, device)?.muted ? ['You are muted'] : []),
    ...(call.caption ? [`Says: ${call.caption.text}`] : last ? [last.text] : []),
  ])
}
