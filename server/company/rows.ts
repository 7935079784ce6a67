import type { EntityManager } from '@mikro-orm/postgresql'
import { type Company, nobody } from '~~/core/company/company'
import { byId } from '~~/core/company/lookups'
import {
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

/** The company's tables as one configuration, all of it at one moment. */
export function readCompany(em: EntityManager): Promise<Company> {
  return em.transactional(async (tx) => {
    await tx.execute('set transaction isolation level repeatable read, read only')
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
        telephones.map(({ id, person, rank, label, number, capacity, inService, pickupGroup, direct, mayPage }) => ({
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
      trunks: byId((await tx.find(TrunkEntity, {}, { orderBy: { id: 'asc' } })).map(({ id, channels, kept }) => ({ id, channels, kept }))),
      slots: byId((await tx.find(SlotEntity, {}, { orderBy: { position: 'asc' } })).map(({ id, number }) => ({ id, number }))),
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
      settings: { ...times, operators: operators ?? nobody.settings.operators, pageDefault: pageDefault ?? null },
    }
  })
}

/** Fills empty tables with a company, within the transaction of `tx`. */
export async function writeCompany(tx: EntityManager, company: Company): Promise<void> {
  const { sites, departments, people, telephones, groups, lines, trunks, slots, shortNumbers, hours, zones, announcements, duties, settings } = company
  await tx.insertMany(SiteEntity, Object.values(sites))
  await tx.insertMany(DepartmentEntity, Object.values(departments))
  await tx.insertMany(PersonEntity, Object.values(people))
  await tx.insertMany(
    TelephoneEntity,
    Object.values(telephones).map(({ name, ...telephone }) => ({ ...telephone, label: telephone.person === null ? name : null })),
  )
  await tx.insertMany(OpeningHoursEntity, Object.values(hours).map(({ id, name, zone }) => ({ id, name, zone })))
  await tx.insertMany(OpeningSpanEntity, Object.values(hours).flatMap(({ id, week }) => week.map(span => ({ ...span, hours: id }))))
  await tx.insertMany(HolidayEntity, Object.values(hours).flatMap(({ id, holidays }) => holidays.map(holiday => ({ ...holiday, hours: id }))))
  await tx.insertMany(
    GroupEntity,
    Object.values(groups).map(({ members: _apart, voluntary: _too, skills: _also, overflow, ...group }) =>
      ({ ...group, overflowAfter: overflow.after, overflowTo: overflow.to })),
  )
  await tx.insertMany(
    GroupMember,
    Object.values(groups).flatMap(({ id, members, voluntary, skills }) =>
      members.map((telephone, position) => ({
        group: id, telephone, position, voluntary: voluntary.includes(telephone), skill: skills[telephone] ?? 0,
      }))),
  )
  await tx.insertMany(LineEntity, Object.values(lines).map(({ overflow, ...line }) => ({ ...line, overflowAfter: overflow.after, overflowTo: overflow.to })))
  await tx.insertMany(TrunkEntity, Object.values(trunks))
  await tx.insertMany(SlotEntity, Object.values(slots).map((slot, position) => ({ ...slot, position })))
  await tx.insertMany(ZoneEntity, Object.values(zones))
  await tx.insertMany(AnnouncementEntity, Object.values(announcements))
  await tx.insertMany(DutyEntity, Object.values(duties))
  await tx.insertMany(ShortNumberEntity, Object.values(shortNumbers))
  await tx.nativeUpdate(SettingsEntity, { id: 1 }, settings)
}
