import type { Device } from '../core/calls/model'
import type { Snapshot } from '../core/calls/snapshot'
import type { Company, Person, Telephone } from '../core/company/company'
import { type Columns, columnsOf, thingsOf } from './columns'

/** A whole state as a browser gets it: what there are thousands of in a large house travels by its fields. */
export interface Picture {
  state: Omit<Snapshot, 'company' | 'devices'> & { devices: Columns<Device> }
  /** Left out for a browser that has it in this version. */
  company?: Omit<Company, 'people' | 'telephones'> & { people: Columns<Person>, telephones: Columns<Telephone> }
  version: number
}

export function pictureOf({ company: { version }, devices, ...state }: Snapshot): Picture {
  return { state: { ...state, devices: columnsOf(devices) }, version }
}

/** What a picture has beside it for a browser that does not have this company. */
export function companyIn({ people, telephones, ...rest }: Company): NonNullable<Picture['company']> {
  return { ...rest, people: columnsOf(people), telephones: columnsOf(telephones) }
}

/** @param known the company that the browser has, where the picture leaves it out */
export function snapshotIn({ state, company }: Picture, known: Company): Snapshot {
  return {
    ...state,
    devices: thingsOf(state.devices),
    company: company ? { ...company, people: thingsOf(company.people), telephones: thingsOf(company.telephones) } : known,
  }
}
