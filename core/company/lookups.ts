import type { DeviceId } from '../calls/model'
import type { Company, Group, Line, PersonId, Slot, Telephone } from './company'

/** What a record holds under a key that comes from outside: never what every object has by birth. */
export function lookUp<T>(record: Record<string, T>, key: string): T | undefined {
  return Object.hasOwn(record, key) ? record[key] : undefined
}

/** Things by their ids. */
export function byId<T extends { id: string }>(all: readonly T[]): Record<string, T> {
  return Object.fromEntries(all.map(one => [one.id, one]))
}

/** What is asked of a configuration often, made once for each. */
interface Lookups {
  telephones: Map<string, Telephone>
  groups: Map<string, Group>
  slots: Map<string, Slot>
  lines: Map<string, Line>
  direct: Map<string, Telephone>
  groupsOf: Map<DeviceId, ReadonlySet<DeviceId>>
  pickupGroups: Map<string, DeviceId[]>
  telephonesOf: Map<PersonId, Telephone[]>
  mobiles: Map<string, PersonId>
  ringingQueues: Group[]
}

const made = new WeakMap<Company, Lookups>()

function lookupsOf(company: Company): Lookups {
  const known = made.get(company)
  if (known) return known
  const telephones = Object.values(company.telephones)
  const groups = Object.values(company.groups)
  const memberships = new Map<DeviceId, Set<DeviceId>>()
  for (const group of groups) for (const member of group.members) memberships.set(member, (memberships.get(member) ?? new Set()).add(group.id))
  const pickupGroups = new Map<string, DeviceId[]>()
  for (const { id, pickupGroup } of telephones) pickupGroups.set(pickupGroup, [...pickupGroups.get(pickupGroup) ?? [], id])
  const theirs = new Map<PersonId, Telephone[]>()
  for (const telephone of telephones)
    if (telephone.person !== null)
      theirs.set(
        telephone.person,
        [...(theirs.get(telephone.person) ?? []), telephone].sort((a, b) => a.rank - b.rank),
      )
  const lookups: Lookups = {
    telephones: byNumber(telephones),
    groups: byNumber(groups),
    slots: byNumber(Object.values(company.slots)),
    lines: byNumber(Object.values(company.lines)),
    direct: new Map(telephones.flatMap(telephone => telephone.direct ? [[telephone.direct, telephone]] : [])),
    groupsOf: memberships,
    pickupGroups,
    telephonesOf: theirs,
    mobiles: new Map(Object.values(company.people).flatMap(({ id, mobile }) => mobile ? [[mobile, id]] : [])),
    ringingQueues: groups.filter(({ distribution, ringing }) => distribution === 'queue' && ringing !== 'none'),
  }
  made.set(company, lookups)
  return lookups
}

function byNumber<T extends { number: string }>(all: T[]): Map<string, T> {
  return new Map(all.map(one => [one.number, one]))
}

export function telephoneWithNumber(company: Company, number: string): Telephone | undefined {
  return lookupsOf(company).telephones.get(number)
}

export function groupWithNumber(company: Company, number: string): Group | undefined {
  return lookupsOf(company).groups.get(number)
}

/** The telephone or the group that a number reaches from inside. */
export function withNumber(company: Company, number: string): Telephone | Group | undefined {
  return telephoneWithNumber(company, number) ?? groupWithNumber(company, number)
}

export function slotWithNumber(company: Company, number: string): Slot | undefined {
  return lookupsOf(company).slots.get(number)
}

/** @param e164 a number that is dialled from outside */
export function lineWithNumber(company: Company, e164: string): Line | undefined {
  return lookupsOf(company).lines.get(e164)
}

/** @param e164 a number that is dialled from outside */
export function telephoneWithDirectNumber(company: Company, e164: string): Telephone | undefined {
  return lookupsOf(company).direct.get(e164)
}

export function isMemberOf(company: Company, device: DeviceId, group: DeviceId): boolean {
  return lookupsOf(company).groupsOf.get(device)?.has(group) ?? false
}

/** The groups and queues that a telephone is a member of. */
export function groupsOf(company: Company, device: DeviceId): Iterable<DeviceId> {
  return lookupsOf(company).groupsOf.get(device) ?? []
}

/** The telephones whose ringing calls each of them may take. */
export function pickupGroupOf(company: Company, device: DeviceId): readonly DeviceId[] {
  const group = company.telephones[device]?.pickupGroup
  return (group && lookupsOf(company).pickupGroups.get(group)) || []
}

/** True for two telephones of one pickup group. */
export function isInPickupGroup(company: Company, one: DeviceId, other: DeviceId): boolean {
  const group = company.telephones[one]?.pickupGroup
  return Boolean(group) && group === company.telephones[other]?.pickupGroup
}

/** A person's telephones, the one that stands for them first. */
export function telephonesOf(company: Company, person: PersonId): readonly Telephone[] {
  return lookupsOf(company).telephonesOf.get(person) ?? []
}

/**
 * Whose mobile an outside number is.
 * @param e164 the number, as the network says it
 */
export function ownerOfMobile(company: Company, e164: string): PersonId | undefined {
  return lookupsOf(company).mobiles.get(e164)
}

/** Queues that ring their members for who waits in them. */
export function ringingQueues(company: Company): readonly Group[] {
  return lookupsOf(company).ringingQueues
}

/** The account code of the list that was meant, however it was written. */
export function accountCodeOf({ accountCodes }: Pick<Company, 'accountCodes'>, typed: string): Company['accountCodes'][string] | undefined {
  return Object.values(accountCodes).find(({ code }) => code.toLowerCase() === typed.toLowerCase())
}
