import type { EntityManager } from '@mikro-orm/postgresql'
import { messagesOfPerson } from '~~/core/calls/names'
import { type CompanyChange, type Part, parts } from '~~/core/company/changes'
import { type Company, type Group, type Line, nobody, type OpeningHours, type Telephone } from '~~/core/company/company'
import { byId } from '~~/core/company/lookups'
import {
  AccountCodeEntity,
  AnnouncementEntity,
  DepartmentEntity,
  DutyEntity,
  GroupEntity,
  GroupMember,
  HolidayEntity,
  LineEntity,
  OpeningHoursEntity,
  OpeningSpanEntity,
  PersonEntity,
  SettingsEntity,
  ShortNumberEntity,
  SiteEntity,
  SlotEntity,
  TelephoneEntity,
  TrunkEntity,
  ZoneEntity,
} from '../database/entities'
import { moveMessages } from '../messages/messages'
import { forgetSoundsOf } from '../own-sounds/own-sounds'
import { tellOfAccounts } from '../telephones/accounts'

/** The company's tables as one configuration, all of it at one moment. */
export function readCompany(em: EntityManager): Promise<Company> {
  return em.transactional(async (tx) => {
    await tx.execute('set transaction isolation level repeatable read, read only')
    return companyIn(tx)
  })
}

/** The same within a transaction that goes on. */
export async function companyIn(tx: EntityManager): Promise<Company> {
  const [version] = await tx.execute<{ version: string }[]>('select version from company')
  const departments = await tx.find(DepartmentEntity, {}, { orderBy: { position: 'asc', id: 'asc' } })
  const people = await tx.find(PersonEntity, {}, { orderBy: { id: 'asc' } })
  const telephones = await tx.find(TelephoneEntity, {}, { orderBy: { number: 'asc' } })
  const groups = await tx.find(GroupEntity, {}, { orderBy: { number: 'asc' } })
  const members = await tx.find(GroupMember, {}, { orderBy: { position: 'asc', telephone: 'asc' } })
  const lines = await tx.find(LineEntity, {}, { orderBy: { number: 'asc' } })
  const openings = await tx.find(OpeningHoursEntity, {}, { orderBy: { id: 'asc' } })
  const spans = await tx.find(OpeningSpanEntity, {}, { orderBy: { day: 'asc', opens: 'asc' } })
  const holidays = await tx.find(HolidayEntity, {}, { orderBy: { date: 'asc' } })
  const settings = await tx.findOne(SettingsEntity, { id: 1 })
  const named = new Map(people.map(({ id, first, last }) => [id, `${first} ${last}`]))
  const membersOf = new Map<string, string[]>()
  for (const { group, telephone } of members) membersOf.set(group, [...membersOf.get(group) ?? [], telephone])
  const mayLeave = new Set(members.filter(({ voluntary }) => voluntary).map(({ group, telephone }) => `${group} ${telephone}`))
  const { id: _one, operators, pageDefault, ...times } = settings ?? { ...nobody.settings, id: 1 }
  return {
    version: Number(version?.version ?? 0),
    sites: byId((await tx.find(SiteEntity, {}, { orderBy: { position: 'asc' } })).map(({ id, name, position }) => ({ id, name, position }))),
    departments: byId(departments.map(({ id, name, site, handles, position }) => ({ id, name, site, handles, position }))),
    people: byId(
      people.map(({ nickname, former, mobile, ...person }) => ({ ...person, nickname: nickname ?? null, former: former ?? null, mobile: mobile ?? null })),
    ),
    telephones: byId(
      telephones.map(({ id, person, rank, label, number, capacity, inService, pickupGroup, direct, mayPage, mayListen, mayRecord }) => ({
        id,
        person: person ?? null,
        rank,
        name: label ?? named.get(person ?? '') ?? number,
        number,
        capacity,
        inService,
        pickupGroup,
        direct: direct ?? null,
        mayPage,
        mayListen,
        mayRecord,
      })),
    ),
    groups: byId(
      groups.map(({ id, overflowAfter, overflowTo, department, hours, ...group }) => ({
        ...group,
        id,
        members: membersOf.get(id) ?? [],
        department: department ?? null,
        skills: Object.fromEntries(members.filter(({ group, skill }) => group === id && skill > 0).map(({ telephone, skill }) => [telephone, skill])),
        voluntary: (membersOf.get(id) ?? []).filter(telephone => mayLeave.has(`${id} ${telephone}`)),
        overflow: { after: overflowAfter, to: overflowTo },
        hours: hours ?? null,
      })),
    ),
    lines: byId(
      lines.map(({ overflowAfter, overflowTo, hours, ...line }) => ({
        ...line,
        overflow: { after: overflowAfter, to: overflowTo },
        hours: hours ?? null,
      })),
    ),
    trunks: byId((await tx.find(TrunkEntity, {}, { orderBy: { id: 'asc' } })).map(({ id, name, channels, kept }) => ({ id, name, channels, kept }))),
    slots: byId((await tx.find(SlotEntity, {}, { orderBy: { position: 'asc' } })).map(({ id, name, number }) => ({ id, name, number }))),
    shortNumbers: Object.fromEntries((await tx.find(ShortNumberEntity, {})).map(({ number, name, emergency }) => [number, { number, name, emergency }])),
    hours: byId(
      openings.map(({ id, name, zone }) => ({
        id,
        name,
        zone,
        week: spans.filter(({ hours }) => hours === id).map(({ day, opens, closes }) => ({ day, opens, closes })),
        holidays: holidays.filter(({ hours }) => hours === id).map(({ date, name }) => ({ date, name })),
      })),
    ),
    zones: byId((await tx.find(ZoneEntity, {}, { orderBy: { position: 'asc' } })).map(
      ({ id, name, number, site, speakers, position }) => ({ id, name, number, site, speakers, position }),
    )),
    announcements: byId((await tx.find(AnnouncementEntity, {}, { orderBy: { position: 'asc' } })).map(
      ({ id, occasion, text, rank, twice, position }) => ({ id, occasion, text, rank, twice, position }),
    )),
    duties: byId((await tx.find(DutyEntity, {}, { orderBy: { position: 'asc' } })).map(
      ({ id, name, handles, instead, position }) => ({ id, name, handles, instead, position }),
    )),
    accountCodes: byId((await tx.find(AccountCodeEntity, {}, { orderBy: { code: 'asc' } })).map(({ id, code, name }) => ({ id, code, name }))),
    settings: { ...times, operators: operators ?? nobody.settings.operators, pageDefault: pageDefault ?? null },
  }
}

const telephoneRow = ({ name, ...telephone }: Telephone) => ({ ...telephone, label: telephone.person === null ? name : null })
const groupRow = ({ members: _apart, voluntary: _too, skills: _also, overflow, ...group }: Group) =>
  ({ ...group, overflowAfter: overflow.after, overflowTo: overflow.to })
const memberRows = ({ id, members, voluntary, skills }: Group) => members.map((telephone, position) => ({
  group: id, telephone, position, voluntary: voluntary.includes(telephone), skill: Object.hasOwn(skills, telephone) ? skills[telephone]! : 0,
}))
const lineRow = ({ overflow, ...line }: Line) => ({ ...line, overflowAfter: overflow.after, overflowTo: overflow.to })
const hoursRow = ({ id, name, zone }: OpeningHours) => ({ id, name, zone })
const spanRows = ({ id, week }: OpeningHours) => week.map(span => ({ ...span, hours: id }))
const holidayRows = ({ id, holidays }: OpeningHours) => holidays.map(holiday => ({ ...holiday, hours: id }))

/** Fills tables that hold no more than an empty company's with a company, within the transaction of `tx`. */
export async function writeCompany(tx: EntityManager, company: Company): Promise<void> {
  const { sites, departments, people, telephones, groups, lines, trunks, slots, shortNumbers, hours, zones, announcements, duties, accountCodes } = company
  await tx.nativeUpdate(SettingsEntity, { id: 1 }, { operators: null })
  for (const entity of [GroupMember, GroupEntity, DepartmentEntity, SiteEntity]) await tx.nativeDelete(entity as typeof SiteEntity, {})
  await tx.insertMany(SiteEntity, Object.values(sites))
  await tx.insertMany(DepartmentEntity, Object.values(departments))
  await tx.insertMany(PersonEntity, Object.values(people))
  await tx.insertMany(TelephoneEntity, Object.values(telephones).map(telephoneRow))
  await tx.insertMany(OpeningHoursEntity, Object.values(hours).map(hoursRow))
  await tx.insertMany(OpeningSpanEntity, Object.values(hours).flatMap(spanRows))
  await tx.insertMany(HolidayEntity, Object.values(hours).flatMap(holidayRows))
  await tx.insertMany(GroupEntity, Object.values(groups).map(groupRow))
  await tx.insertMany(GroupMember, Object.values(groups).flatMap(memberRows))
  await tx.insertMany(LineEntity, Object.values(lines).map(lineRow))
  await tx.insertMany(TrunkEntity, Object.values(trunks))
  await tx.insertMany(SlotEntity, Object.values(slots).map((slot, position) => ({ ...slot, position })))
  await tx.insertMany(ZoneEntity, Object.values(zones))
  await tx.insertMany(AnnouncementEntity, Object.values(announcements))
  await tx.insertMany(DutyEntity, Object.values(duties))
  await tx.insertMany(AccountCodeEntity, Object.values(accountCodes))
  await tx.insertMany(ShortNumberEntity, Object.values(shortNumbers))
  await tx.nativeUpdate(SettingsEntity, { id: 1 }, company.settings)
}

/** How one thing of each part is written; what belongs to it is written anew. */
const puts: { [P in Part]: (tx: EntityManager, thing: Company[P][string]) => Promise<unknown> } = {
  sites: (tx, site) => tx.upsert(SiteEntity, site),
  departments: (tx, department) => tx.upsert(DepartmentEntity, department),
  people: (tx, person) => tx.upsert(PersonEntity, person),
  telephones: (tx, telephone) => tx.upsert(TelephoneEntity, telephoneRow(telephone)),
  async groups(tx, group) {
    await tx.upsert(GroupEntity, groupRow(group))
    await tx.nativeDelete(GroupMember, { group: group.id })
    await tx.insertMany(GroupMember, memberRows(group))
  },
  lines: (tx, line) => tx.upsert(LineEntity, lineRow(line)),
  trunks: (tx, trunk) => tx.upsert(TrunkEntity, trunk),
  async slots(tx, slot) {
    const known = await tx.findOne(SlotEntity, { id: slot.id })
    const [last] = await tx.find(SlotEntity, {}, { orderBy: { position: 'desc' }, limit: 1 })
    await tx.upsert(SlotEntity, { ...slot, position: known?.position ?? (last?.position ?? -1) + 1 })
  },
  shortNumbers: (tx, short) => tx.upsert(ShortNumberEntity, short),
  async hours(tx, hours) {
    await tx.upsert(OpeningHoursEntity, hoursRow(hours))
    await tx.nativeDelete(OpeningSpanEntity, { hours: hours.id })
    await tx.nativeDelete(HolidayEntity, { hours: hours.id })
    await tx.insertMany(OpeningSpanEntity, spanRows(hours))
    await tx.insertMany(HolidayEntity, holidayRows(hours))
  },
  zones: (tx, zone) => tx.upsert(ZoneEntity, zone),
  announcements: (tx, text) => tx.upsert(AnnouncementEntity, text),
  duties: (tx, duty) => tx.upsert(DutyEntity, duty),
  accountCodes: (tx, code) => tx.upsert(AccountCodeEntity, code),
}

const entities = {
  sites: SiteEntity, departments: DepartmentEntity, people: PersonEntity, telephones: TelephoneEntity, groups: GroupEntity, lines: LineEntity,
  trunks: TrunkEntity, slots: SlotEntity, hours: OpeningHoursEntity, zones: ZoneEntity, announcements: AnnouncementEntity, duties: DutyEntity,
  accountCodes: AccountCodeEntity,
} as const

/** Lines, groups and telephones that are no more, and telephones that somebody else has from now on; `owner`: who had that telephone. */
async function losing(tx: EntityManager, changes: readonly CompanyChange[]): Promise<{ id: string, owner: string | null, isGone: boolean }[]> {
  const wanted = changes.flatMap(change => change.part === 'telephones' || change.part === 'lines' || change.part === 'groups' ? [change] : [])
  if (wanted.length === 0) return []
  const ids = wanted.map(({ id }) => id)
  const known = await tx.find(TelephoneEntity, { id: { $in: ids } }, { fields: ['id', 'person'], disableIdentityMap: true })
  const owners = new Map(known.map(({ id, person }) => [id, person]))
  return wanted.flatMap(({ part, id, value }) => {
    const isGone = value === null
    return isGone || (part === 'telephones' && owners.has(id) && owners.get(id) !== value.person) ? [{ id, owner: owners.get(id) ?? null, isGone }] : []
  })
}

/** Writes changes of a company whose result has no fault, within the transaction of `tx`. What is no more goes first: its number may be another's now. */
export async function writeChanges(tx: EntityManager, changes: readonly CompanyChange[]): Promise<void> {
  await tx.execute('set constraints all deferred')
  const lost = await losing(tx, changes)
  await forgetSoundsOf(tx, lost.map(({ id }) => id))
  if (lost.some(({ isGone }) => isGone)) await tellOfAccounts(tx)
  for (const { id, owner, isGone } of lost) {
    // Nobody would read them any more: the operators do.
    const readers = owner === null && isGone ? (await tx.findOneOrFail(SettingsEntity, { id: 1 }, { disableIdentityMap: true })).operators : null
    if (owner !== null || readers) await moveMessages(tx, id, owner === null ? readers! : messagesOfPerson(owner))
  }
  for (const change of changes) {
    if (change.part === 'settings' || change.value !== null) continue
    if (change.part === 'shortNumbers') await tx.nativeDelete(ShortNumberEntity, { number: change.id })
    else await tx.nativeDelete(entities[change.part] as typeof SiteEntity, { id: change.id })
  }
  for (const part of parts)
    for (const change of changes)
      if (change.part === part && change.value !== null) await puts[part](tx, change.value as never)
  for (const change of changes) if (change.part === 'settings') await tx.nativeUpdate(SettingsEntity, { id: 1 }, change.value)
  await tx.execute('set constraints all immediate')
}
