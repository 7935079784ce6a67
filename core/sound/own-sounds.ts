import { type DeviceId, type ExchangeState, type GreetingOccasion, greetingOccasions, type LineId } from '../calls/model'
import { ownerOfMailbox } from '../calls/names'
import type { Company } from '../company/company'
import { lookUp } from '../company/lookups'
import { type ToneKind, toneKinds } from './country-tones'

/** Sounds that somebody has recorded or brought, in the place of what the house plays and says by itself. */

export const musicPlace = 'music'
export const tonePlace = (kind: ToneKind) => `tone:${kind}`
/** What whoever calls a line hears once, while it rings. */
export const linePlace = (line: LineId) => `line:${line}`
/** What the mailbox of a telephone, a group or a line says. */
export const greetingPlace = (owner: string, when: GreetingOccasion) => `greeting:${when}:${owner}`

type PlaceOfSound = { is: 'music' } | { is: 'tone', tone: ToneKind } | { is: 'line', line: LineId } | { is: 'greeting', owner: string, when: GreetingOccasion }

/** What a sound stands for, by the name of its place; null: there is no such place in this company. */
export function placeOfSound(company: Company, place: string): PlaceOfSound | null {
  if (place === musicPlace) return { is: 'music' }
  const tone = toneKinds.find(kind => place === tonePlace(kind))
  if (tone) return { is: 'tone', tone }
  const line = /^line:(.*)$/s.exec(place)?.[1]
  if (line !== undefined) return lookUp(company.lines, line) ? { is: 'line', line } : null
  const [, said, owner] = /^greeting:([^:]+):(.*)$/s.exec(place) ?? []
  const when = greetingOccasions.find(one => one === said)
  if (!when || owner === undefined) return null
  // A line or a group is never away.
  const isThere = lookUp(company.telephones, owner) || (when === 'usual' && (lookUp(company.lines, owner) ?? lookUp(company.groups, owner)))
  return isThere ? { is: 'greeting', owner, when } : null
}

/** Seconds that a sound may be long at its place. */
export const longestSound = (place: string) => place === musicPlace ? 180 : 60

/**
 * What a mailbox says at present in its owner's own way: for the status they have, else as usual; in their voice before what they have written.
 * Null: what mailboxes say.
 * @param has whether there is a sound at a place
 */
export function greetingAt(state: ExchangeState, mailbox: DeviceId, has: (place: string) => boolean): { sound: string } | { text: string } | null {
  const owner = ownerOfMailbox(mailbox) ?? ''
  const { mailbox: own, status } = state.devices.get(owner) ?? {}
  const occasions: GreetingOccasion[] = status?.reason ? [status.reason, 'usual'] : ['usual']
  for (const when of occasions) {
    const sound = greetingPlace(owner, when)
    if (has(sound)) return { sound }
    const text = own?.greetings[when]
    if (text) return { text }
  }
  return null
}
