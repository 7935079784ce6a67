import { spoken } from '../../words/phrase'
import type { Call } from '../calls/model'
import { connectionOf } from '../calls/questions'
import { tellStory } from '../calls/story'
import { spell } from '../durations/durations'
import { formatNumber } from '../numbers/dialled'
import { promisedTo } from './call-backs'
import { type Console, otherName } from './console'
import type { Ribbon } from './track'

/** What the eye gets at a glance, in a few words for who asks for it by a key. */

type Situation = Pick<Console, 'state' | 'device' | 'track' | 'nameOf' | 't'> & { now: number, lineName: (call: Call) => string }

/** What was said may bring its own full stop. */
const list = (parts: string[]) => parts.map(part => /[.!?]$/.test(part) ? part : `${part}.`).join(' ')

/** Who waits to be answered and how long, the next one first. */
export function whoWaits({ track: { arriving, next }, device, nameOf, now, lineName, t }: Situation): string {
  if (!next) return t('summaries.nobodyIsWaiting')
  const whence = (call: Call) => call.recall ? t('summaries.back') : lineName(call)
  const tell = ({ call, due }: Ribbon) => `${otherName(t, call, device, nameOf)}, ${whence(call)}, ${spell(now - due.since)}`
  const others = arriving.filter(ribbon => ribbon !== next)
  return list([t('summaries.countWaiting', { count: arriving.length }), t('summaries.nextWho', { who: tell(next) }), ...others.map(tell)])
}

/** Where everybody is whom the operator holds, asks for, has parked or passed on. */
export function whereabouts({ state, track: { held, askedFor, consultation, passedOn }, device, nameOf, now, t }: Situation): string {
  const name = (call: Call) => otherName(t, call, device, nameOf)
  const parked = [...state.calls.values()].filter(call => call.parked?.by === device)
  const parts = [
    ...(askedFor && consultation ? [t('summaries.waitsWhileYouAsk', { name: name(askedFor), name2: name(consultation) })] : []),
    ...held.filter(({ call }) => call.id !== askedFor?.id).map(({ call, due }) => t('summaries.onHold', { name: name(call), time: spell(now - due.since) })),
    ...parked.map(call => `${nameOf(call.parked!.slot)}: ${nameOf(call.calling, call.party)}, ${spell(now - call.parked!.at)}`),
    ...passedOn.map(({ call, due }) => `${name(call)} ${call.passing
      ? t('summaries.ringsAt', { name: nameOf(call.passing.to) })
      : t('summaries.talksOutside')}, ${spell(now - due.since)}`),
  ]
  return parts.length > 0 ? list(parts) : t('summaries.nobodyOnHoldParkedOr')
}

/** The call in hand, or the one that Enter would answer: its line, who it is, and what was said or happened last. */
export function thisCall({ state, track: { open, next, consultation, askedFor }, device, nameOf, now, lineName, t }: Situation): string {
  const ribbon = open ?? next
  if (!ribbon) return t('summaries.noCallInHand')
  const { call, due } = ribbon
  const number = call.party?.name ? call.party.number && formatNumber(call.party.number, state.company.settings) : null
  const last = tellStory(t, call.story, nameOf).at(-1)
  return list([
    `${open ? t('summaries.inHand') : t('summaries.next')}: ${otherName(t, call, device, nameOf)}`,
    ...(number ? [number] : []),
    ...(consultation?.id === call.id ? [] : [lineName(call)]),
    ...(consultation?.id === call.id && askedFor ? [t('summaries.askedFor', { name: otherName(t, askedFor, device, nameOf) })] : []),
    spell(now - due.since),
    ...promisedTo(state, call).map(({ queue }) => t('summaries.promisedACallBackBy', { name: nameOf(queue) })),
    ...(open && connectionOf(call, device)?.muted ? [t('summaries.youAreMuted')] : []),
    ...(call.caption ? [t('summaries.saysText', { text: spoken(t, call.caption.text) })] : last ? [last.text] : []),
  ])
}
