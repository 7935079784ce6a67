import type { Call, CallId } from '../calls/model'
import type { Console, Deed } from './console'
import { otherName } from './console'
import { answerAnywhere, deedOfKey } from './keys'
import { parkingIn, takingFrom } from './ways'

/**
 * A key acts on whom it named when the operator last had time to see or hear it. Callers come, go and overtake each other in the moment in which a finger
 * moves: whatever a key stood for until then is what is meant.
 */

/** What a key does, and whom it is about. */
export interface Meaning { deed: Deed, call: CallId | null, whom: string }

export interface Aim {
  /** What is meant when the key is pressed now. */
  meant: Meaning | null
  /** What the key stands for, and since when. */
  stands: Meaning | null
  since: number
}

export type Aims = Readonly<Record<string, Aim>>

/** Milliseconds that it takes to notice that a key stands for something else. */
export const reaction = 1_000

/** The keys that act on a caller without naming one. */
const keys = ['Enter', answerAnywhere, ' ', 'ArrowLeft', 'Backspace', 'Delete', 'F2', 'F8', '"']

/** What every key that names nobody stands for at this moment; the slots by their ids: `take slot:1`, `park slot:1`; `inHand`: the call in hand itself. */
export function meaningsOf(console: Console): Record<string, Meaning | null> {
  const { state } = console
  const meaning = (deed: Deed | null | undefined): Meaning | null => {
    if (!deed) return null
    const call = deed.do === 'ask' && 'call' in deed.request ? deed.request.call : 'call' in deed ? deed.call : null
    const about = call === null ? undefined : state.calls.get(call)
    return { deed, call, whom: about ? nameOf(console, about) : '' }
  }
  const slots = Object.keys(state.company.slots)
  return Object.fromEntries([
    ...keys.map(key => [key, meaning(deedOfKey(console, key))]),
    ...slots.flatMap(slot => [[`take ${slot}`, meaning(takingFrom(console, slot))], [`park ${slot}`, meaning(parkingIn(console, slot))]]),
    ['park', meaning(parkingIn(console, null))],
    ['inHand', console.track.baton && meaning({ do: 'carry', call: console.track.baton.id })],
  ]) as Record<string, Meaning | null>
}

function nameOf({ device, nameOf, t }: Console, call: Call): string {
  return call.parked ? nameOf(call.calling, call.party) : otherName(t, call, device, nameOf)
}

/**
 * What is meant by each key after a look at the screen.
 * @param byHand the operator has just done something: what has changed by that is expected
 * @param refused the call for which the exchange has just refused something: that has been told, and keys are not meant for it any longer
 */
export function aimed(before: Aims, meanings: Record<string, Meaning | null>, now: number, byHand: boolean, refused: CallId | null = null): Aims {
  return Object.fromEntries(Object.entries(meanings).map(([key, stands]) => {
    const aim = before[key]
    const taken: Aim = { meant: stands, stands, since: now }
    // Whoever has just hung up is still called by their name.
    if (aim && !byHand && same(aim.meant, stands)) return [key, { ...taken, meant: aim.meant }]
    if (!aim || byHand || aim.meant === null || (refused !== null && aim.meant.call === refused)) return [key, taken]
    if (!same(aim.stands, stands)) return [key, { meant: aim.meant, stands, since: now }]
    return [key, now - aim.since >= reaction ? taken : aim]
  }))
}

function same(a: Meaning | null, b: Meaning | null): boolean {
  return JSON.stringify(a?.deed ?? null) === JSON.stringify(b?.deed ?? null)
}

/** Who was meant by a key and has gone; null when the key can do what is meant. */
export function goneFor({ state }: Pick<Console, 'state'>, aim: Aim): string | null {
  return aim.meant?.call && !state.calls.has(aim.meant.call) ? aim.meant.whom : null
}
