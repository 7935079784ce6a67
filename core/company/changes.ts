import type { Company, Settings } from './company'

/** The parts of a configuration that hold things by their ids. */
export const parts = [
  'sites', 'departments', 'people', 'telephones', 'groups', 'lines', 'trunks', 'slots', 'shortNumbers', 'hours', 'zones',
  'announcements', 'duties', 'accountCodes',
] as const
export type Part = typeof parts[number]

/** One thing as it is from now on, or null when it is no more; or the settings. */
export type CompanyChange
  = | { [P in Part]: { part: P, id: string, value: Company[P][string] | null } }[Part]
    | { part: 'settings', value: Settings }

/** What leads from one configuration to another. */
export function changesBetween(before: Company, after: Company): CompanyChange[] {
  const changes = parts.flatMap((part) => {
    const [was, is]: Record<string, unknown>[] = [before[part], after[part]]
    const ids = new Set([...Object.keys(was!), ...Object.keys(is!)])
    return [...ids].filter(id => !same(own(was!, id), own(is!, id))).map(id => ({ part, id, value: own(is!, id) ?? null }) as CompanyChange)
  })
  return same(before.settings, after.settings) ? changes : [...changes, { part: 'settings', value: after.settings }]
}

/** The configuration after changes. What did not change is shared. */
export function changedCompany(company: Company, version: number, changes: readonly CompanyChange[]): Company {
  const next: Company = { ...company, version }
  for (const part of new Set(changes.map(change => change.part))) if (part !== 'settings') next[part] = { ...next[part] } as never
  for (const change of changes) {
    if (change.part === 'settings') next.settings = change.value
    else if (change.value === null) Reflect.deleteProperty(next[change.part], change.id)
    else next[change.part][change.id] = change.value
  }
  return next
}

/** Under which id the thing stands that a change is about; empty for the settings. */
export function idOf(change: CompanyChange): string {
  return change.part === 'settings' ? '' : change.id
}

/** The one thing that a change is about, as a configuration has it: null when it is not there. */
export function thingOf(company: Company, change: CompanyChange): CompanyChange {
  return change.part === 'settings'
    ? { part: 'settings', value: company.settings }
    : { part: change.part, id: change.id, value: own<unknown>(company[change.part], change.id) ?? null } as CompanyChange
}

/** True when both say the same of the same thing. */
export function isSameThing(one: CompanyChange, other: CompanyChange): boolean {
  return same(one, other)
}

function own<T>(record: Record<string, T>, id: string): T | undefined {
  return Object.hasOwn(record, id) ? record[id] : undefined
}

/** Plain data is the same when it is written the same, whatever the order of its fields. */
function same(one: unknown, other: unknown): boolean {
  if (one === other) return true
  if (typeof one !== 'object' || typeof other !== 'object' || !one || !other) return false
  const [fields, others] = [Object.entries(one), Object.entries(other)]
  return fields.length === others.length && fields.every(([name, value]) => same(value, (other as Record<string, unknown>)[name]))
}
