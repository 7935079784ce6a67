import type { DeviceId } from '~~/core/calls/model'
import { messagesOfPerson } from '~~/core/calls/names'
import type { Company } from '~~/core/company/company'
import { groupsOf, telephonesOf } from '~~/core/company/lookups'
import { type Role, seesCallers } from '~~/shared/roles'

/** The mailboxes that are read at one telephone: its own, what its owner has kept from a former one, and those of the groups that it is in. */
export function mailboxesAt(company: Company, device: DeviceId): string[] {
  const person = company.telephones[device]?.person ?? null
  return [device, ...person === null ? [] : [messagesOfPerson(person)], ...groupsOf(company, device)]
}

/**
 * Whose messages somebody reads: their own, those of the groups in which any of their telephones is, and for who answers for the company its lines'.
 * @param reader by their telephone (null: they have none) and their role
 */
export function mailboxesReadBy(company: Company, { device, role }: { device: DeviceId | null, role: Role }): string[] {
  const person = device === null ? null : company.telephones[device]?.person ?? null
  const others = person === null ? [] : telephonesOf(company, person).flatMap(({ id }) => [...groupsOf(company, id)])
  return [...new Set([...device === null ? [] : mailboxesAt(company, device), ...others, ...seesCallers(role) ? Object.keys(company.lines) : []])]
}
