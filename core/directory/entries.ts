import type { Company, Group } from '../company/company'
import { telephonesOf } from '../company/lookups'
import type { DirectoryEntry } from './search'
import type { Speaker } from '../../words/speaker'

/**
 * Everybody, every place, group, zone of loudspeakers and duty of a company, as the search finds them: people first, by department and number.
 * @param occupants who is at a place now, by its telephone
 */
export function entriesOf(t: Speaker, company: Company, occupants: ReadonlyMap<string, string[]> = new Map()): DirectoryEntry[] {
  return [
    ...peopleOf(company), ...placesOf(t, company, occupants), ...Object.values(company.groups).map(group => groupEntry(t, company, group)),
    ...zonesOf(t, company),
    ...dutiesOf(t, company),
  ]
}

/** Somebody's entry, and what it was made of: while that is the same, so is the entry. */
interface Made { of: readonly unknown[], entry: DirectoryEntry }
const made = new WeakMap<Company['people'][string], Made>()

function peopleOf(company: Company): DirectoryEntry[] {
  return Object.values(company.people).map((person) => {
    const department = company.departments[person.department]!
    const [site, telephones] = [company.sites[department.site], telephonesOf(company, person.id)]
    const of = [department, site, ...telephones]
    const before = made.get(person)
    if (before && before.of.length === of.length && before.of.every((one, at) => one === of[at])) return before.entry
    const { first, last, nickname, former, role, room, mobile } = person
    const entry = {
      id: telephones[0]?.id ?? person.id, telephones: telephones.map(({ id }) => id), extension: telephones.map(({ number }) => number).join(', '),
      first, last, nickname, former, department: person.department, departmentName: department.name, site: site?.name ?? department.site, role, room,
      handles: department.handles, mobile, direct: telephones.find(({ direct }) => direct !== null)?.direct ?? null,
    }
    made.set(person, { of, entry })
    return entry
  })
}

/** Telephones that belong to a place. */
function placesOf(t: Speaker, company: Company, occupants: ReadonlyMap<string, string[]>): DirectoryEntry[] {
  return Object.values(company.telephones).filter(({ person }) => person === null).map(({ id, name, number, pickupGroup }) => {
    const department = company.departments[pickupGroup]
    return {
      id, telephones: [id], extension: number, first: '', last: name, nickname: null, former: null, department: pickupGroup,
      departmentName: department?.name ?? '',
      site: (department && company.sites[department.site]?.name) ?? '', role: t('field.place'), room: '', handles: [], mobile: null, direct: null,
      occupants: occupants.get(id) ?? [],
    }
  })
}

/** Duties are found by their name and by what they are asked for: whoever the roster names is reached. */
function dutiesOf(t: Speaker, company: Company): DirectoryEntry[] {
  return Object.values(company.duties).map(({ id, name, handles }) => ({
    id, telephones: [], extension: '', first: '', last: name, nickname: null, former: null, department: '', departmentName: '', site: '',
    role: t('field.onDuty2'),
    room: '', handles, mobile: null, direct: null, isGroup: true,
  }))
}

/** Zones of loudspeakers are found by their name, number and site, and by the loudspeakers in them. */
function zonesOf(t: Speaker, company: Company): DirectoryEntry[] {
  return Object.values(company.zones).map(({ id, name, number, site, speakers }) => ({
    id, telephones: [], extension: number, first: '', last: name, nickname: null, former: null, department: '', departmentName: '',
    site: company.sites[site]?.name ?? '', role: t('common.loudspeakers'), room: '', handles: ['announcement', ...speakers], mobile: null, direct: null,
    isZone: true,
  }))
}

function groupEntry(t: Speaker, company: Company, { id, name, number, distribution, department }: Group): DirectoryEntry {
  return {
    id,
    telephones: [],
    extension: number,
    first: '',
    last: name,
    nickname: null,
    former: null,
    department: '',
    departmentName: '',
    site: '',
    role: distribution === 'queue' ? t('common.queue') : t('field.group'),
    room: '',
    handles: (department !== null && company.departments[department]?.handles) || [],
    mobile: null,
    direct: null,
    isGroup: true,
  }
}

/** Ids of contacts never look like those of anything inside. */
const contactPrefix = 'contact:'

/** The contact whose entry it is, or null for anybody of ours. */
export function contactOfEntry(id: string): string | null {
  return id.startsWith(contactPrefix) ? id.slice(contactPrefix.length) : null
}

/** Somebody outside, found by name, company, numbers, and "customer" or "contact". */
export function contactEntry(t: Speaker, contact: { id: string, name: string, kind: string, numbers: { number: string }[] }, company: string): DirectoryEntry {
  return {
    id: `${contactPrefix}${contact.id}`, telephones: [], extension: '', first: '', last: contact.name, nickname: null, former: null, department: '',
    departmentName: company, site: '', role: contact.kind === 'company' ? t('common.company') : t('field.contact'), room: '', handles: [], mobile: null,
    direct: null,
    numbers: contact.numbers.map(({ number }) => number),
  }
}
