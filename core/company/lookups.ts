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

/** What is asked often of a part of a configuration is made once for as long as that part stays: of a changed name nothing else is made anew. */
function once<Part extends object, Made>(make: (part: Part) => Made): (part: Part) => Made {
  const made = new WeakMap<Part, Made>()
  return (part) => {
    const known = made.get(part)
    if (known !== undefined) return known
    const now = make(part)
    made.set(part, now)
    return now
  }
}

const ofTelephones = once((telephones: Company['telephones']) => {
  const all = Object.values(telephones)
  const [pickupGroups, theirs] = [new Map<string, DeviceId[]>(), new Map<PersonId, Telephone[]>()]
  for (const telephone of all) {
    collect(pickupGroups, telephone.pickupGroup, telephone.id)
    if (telephone.person !== null) collect(theirs, telephone.person, telephone)
  }
  for (const several of theirs.values()) several.sort((a, b) => a.rank - b.rank)
  const direct = new Map(all.flatMap((telephone): [string, Telephone][] => telephone.direct ? [[telephone.direct, telephone]] : []))
  return { byNumber: byNumber(all), direct, pickupGroups, ofPerson: theirs }
})

const ofGroups = once((groups: Company['groups']) => {
  const all = Object.values(groups)
  const ofMember = new Map<DeviceId, Set<DeviceId>>()
  for (const group of all) for (const member of group.members) ofMember.set(member, (ofMember.get(member) ?? new Set()).add(group.id))
  return { byNumber: byNumber(all), ofMember, ringing: all.filter(({ distribution, ringing }) => distribution === 'queue' && ringing !== 'none') }
})

const slotsByNumber = once((slots: Company['slots']) => byNumber(Object.values(slots)))
const linesByNumber = once((lines: Company['lines']) => byNumber(Object.values(lines)))
const byMobile = once((people: Company['people']) =>
  new Map(Object.values(people).flatMap(({ id, mobile }): [string, PersonId][] => mobile ? [[mobile, id]] : [])))

function collect<Key, Value>(into: Map<Key, Value[]>, key: Key, value: Value): void {
  const there = into.get(key)
  if (there) there.push(value)
  else into.set(key, [value])
}

function byNumber<T extends { number: string }>(all: T[]): Map<string, T> {
  return new Map(all.map(one => [one.number, one]))
}

export function telephoneWithNumber(company: Company, number: string): Telephone | undefined {
  return ofTelephones(company.telephones).byNumber.get(number)
}

export function groupWithNumber(company: Company, number: string): Group | undefined {
  return ofGroups(company.groups).byNumber.get(number)
}

/** The telephone or the group that a number reaches from inside. */
export function withNumber(company: Company, number: string): Telephone | Group | undefined {
  return telephoneWithNumber(company, number) ?? groupWithNumber(company, number)
}

export function slotWithNumber(company: Company, number: string): Slot | undefined {
  return slotsByNumber(company.slots).get(number)
}

/** @param e164 a number that is dialled from outside */
export function lineWithNumber(company: Company, e164: string): Line | undefined {
  return linesByNumber(company.lines).get(e164)
}

/** @param e164 a number that is dialled from outside */
export function telephoneWithDirectNumber(company: Company, e164: string): Telephone | undefined {
  return ofTelephones(company.telephones).direct.get(e164)
}

export function isMemberOf(company: Company, device: DeviceId, group: DeviceId): boolean {
  return ofGroups(company.groups).ofMember.get(device)?.has(group) ?? false
}

/** The groups and queues that a telephone is a member of. */
export function groupsOf(company: Company, device: DeviceId): Iterable<DeviceId> {
  return ofGroups(company.groups).ofMember.get(device) ?? []
}

/** The telephones whose ringing calls each of them may take. */
export function pickupGroupOf(company: Company, device: DeviceId): readonly DeviceId[] {
  const group = company.telephones[device]?.pickupGroup
  return (group && ofTelephones(company.telephones).pickupGroups.get(group)) || []
}

/** True for two telephones of one pickup group. */
export function isInPickupGroup(company: Company, one: DeviceId, other: DeviceId): boolean {
  const group = company.telephones[one]?.pickupGroup
  return Boolean(group) && group === company.telephones[other]?.pickupGroup
}

/** A person's telephones, the one that stands for them first. */
export function telephonesOf(company: Company, person: PersonId): readonly Telephone[] {
  return ofTelephones(company.telephones).ofPerson.get(person) ?? []
}

/**
 * Whose mobile an outside number is.
 * @param e164 the number, as the network says it
 */
export function ownerOfMobile(company: Company, e164: string): PersonId | undefined {
  return byMobile(company.people).get(e164)
}

/** Who of ours calls, also by their own mobile; null: somebody else. */
export function personCalling(company: Company, { calling, party }: { calling: string, party: { number: string | null } | null }): PersonId | null {
  return company.telephones[calling]?.person ?? (party?.number ? ownerOfMobile(company, party.number) : undefined) ?? null
}

/** Queues that ring their members for who waits in them. */
export function ringingQueues(company: Company): readonly Group[] {
  return ofGroups(company.groups).ringing
}

/** The account code of the list that was meant, however it was written. */
export function accountCodeOf({ accountCodes }: Pick<Company, 'accountCodes'>, typed: string): Company['accountCodes'][string] | undefined {
  return Object.values(accountCodes).find(({ code }) => code.toLowerCase() === typed.toLowerCase())
}
