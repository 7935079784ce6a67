import { phrase, type Phrase } from '../../words/phrase'
import { plainText } from '../calls/text'
import { instantOf } from '../calendar/zones'
import type { Company, Telephone } from '../company/company'
import { telephoneWithNumber } from '../company/lookups'
import { fold } from '../directory/folding'
import { readTable } from '../formats/csv'

/**
 * Who is at which place, as CSV (RFC 4180): place, occupant, from, to. A place is named by its extension or its name; from and to are ISO 8601, by the clock of
 * the house where they name no zone, and may be left out: from now on, until the next list. A list is whole: who is not on it has gone.
 */
export interface Stay {
  telephone: string
  name: string
  /** Milliseconds since 1970 (UTC); null: from now on, until further notice. */
  from: number | null
  to: number | null
}

const mostRows = 20_000
const longestName = 80
const isoTime = /^\d{4}-\d{2}-\d{2}(T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?)?$/

/** @returns who is where, and places that nobody knows (their rows are left out); or what is wrong with the first row that can't be read */
export function readStays(company: Company, text: string): { stays: Stay[], unknown: string[] } | { fault: Phrase } {
  const table = readTable(text, mostRows, true)
  if ('fault' in table) return table
  const named = table.columns.map(column => column.trim().toLowerCase())
  if (!named.includes('place') || !named.includes('occupant'))
    return { fault: phrase('files.columnsOfPlaces') }
  const rows = table.rows.map(row => Object.fromEntries(named.map((column, at) => [column, row[at]!])))
  const places = placesOf(company)
  const stays: Stay[] = []
  const unknown = new Set<string>()
  for (const [index, row] of rows.entries()) {
    const stay = stayOf(company, places, row)
    if ('fault' in stay) return { fault: phrase('files.line', { line: table.lines[index]!, fault: stay.fault }) }
    if ('unknown' in stay) unknown.add(stay.unknown)
    else if (stay.name !== '') stays.push(stay)
  }
  return { stays, unknown: [...unknown] }
}

/** Telephones that belong to places, by their names. */
function placesOf(company: Company): Map<string, Telephone> {
  return new Map(Object.values(company.telephones).filter(({ person }) => person === null).map(place => [fold(place.name), place]))
}

function stayOf(company: Company, places: Map<string, Telephone>, row: Record<string, string>): Stay | { fault: Phrase } | { unknown: string } {
  const named = plainText(row.place ?? '', longestName)
  if (named === '') return { fault: phrase('files.placeIsEmpty') }
  const byNumber = telephoneWithNumber(company, named)
  const place = byNumber?.person === null ? byNumber : places.get(fold(named))
  const [from, to] = [row.from ?? '', row.to ?? ''].map(said => said === '' ? null : timeOf(said, company.settings.zone))
  if (from === undefined || Number.isNaN(from)) return { fault: phrase('files.noTime', { field: 'from', said: plainText(row.from ?? '', 40) }) }
  if (to === undefined || Number.isNaN(to)) return { fault: phrase('files.noTime', { field: 'to', said: plainText(row.to ?? '', 40) }) }
  if (from !== null && to !== null && to <= from) return { fault: phrase('files.toBeforeFrom') }
  return place ? { telephone: place.id, name: plainText(row.occupant ?? '', longestName), from, to } : { unknown: named }
}

function timeOf(said: string, zone: string): number {
  if (!isoTime.test(said)) return Number.NaN
  if (/(Z|[+-]\d{2}:?\d{2})$/.test(said) && said.includes('T')) return Date.parse(said)
  const local = Date.parse(said.includes('T') ? `${said}Z` : `${said}T00:00Z`)
  return Number.isNaN(local) ? local : instantOf(zone, local)
}
