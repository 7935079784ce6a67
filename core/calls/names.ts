import { phrase, type Phrase, type Spoken } from '../../words/phrase'
import type { Company, PersonId } from '../company/company'
import { lookUp } from '../company/lookups'
import type { DeviceId, LineId, TrunkId } from './model'

const mailboxPrefix = 'mailbox:'
const slotPrefix = 'slot:'

/** The mailbox of a telephone, a group or a line, by its id. */
export function mailboxOf(owner: DeviceId | LineId): DeviceId {
  return `${mailboxPrefix}${owner}`
}

export function isMailbox(device: DeviceId): boolean {
  return device.startsWith(mailboxPrefix)
}

/** The id of the telephone, group or line that a mailbox belongs to; null for any other device. */
export function ownerOfMailbox(device: DeviceId): string | null {
  return isMailbox(device) ? device.slice(mailboxPrefix.length) : null
}

/** Whose a mailbox is: a telephone, a group or a line of ours; undefined where there is none such. */
export function mailboxOwner({ telephones, groups, lines }: Company, device: DeviceId): { id: string, name: string } | undefined {
  const owner = ownerOfMailbox(device)
  return owner === null ? undefined : lookUp(telephones, owner) ?? lookUp(groups, owner) ?? lookUp(lines, owner)
}

const personPrefix = 'person:'
/** Where a person's messages are kept when their telephone is somebody else's by now: whoever has it next reads none of them. */
export const messagesOfPerson = (person: PersonId) => `${personPrefix}${person}`
/** Whose messages are kept there; null: those of a telephone, a group or a line. */
export const personOfMessages = (to: string): PersonId | null => to.startsWith(personPrefix) ? to.slice(personPrefix.length) : null

export function slotId(number: number): DeviceId {
  return `${slotPrefix}${number}`
}

export function isSlot(device: DeviceId): boolean {
  return device.startsWith(slotPrefix)
}

/** How a device of ours is called in a sentence; null for parties outside and whatever is unknown. */
export function deviceName(company: Company, device: DeviceId): Spoken | null {
  const { telephones, groups, zones, slots } = company
  if (isSlot(device)) return phrase('names.parkSlot', { name: lookUp(slots, device)?.name ?? '' })
  if (isMailbox(device)) {
    const name = mailboxOwner(company, device)?.name
    return name ? phrase('names.theVoicemailOf', { name }) : phrase('names.aVoicemail')
  }
  return lookUp(telephones, device)?.name ?? lookUp(groups, device)?.name ?? lookUp(zones, device)?.name ?? null
}

/** How a trunk is called in a sentence. */
export function trunkName({ trunks }: Company, trunk: TrunkId): Phrase {
  return phrase('names.trunk', { name: lookUp(trunks, trunk)?.name ?? '' })
}
