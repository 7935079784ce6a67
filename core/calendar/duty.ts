import { fold } from '../directory/folding'
import type { Company, PersonId } from '../company/company'
import { telephonesOf, telephoneWithNumber } from '../company/lookups'

/** Who is on duty, as a roster says. Times are milliseconds since 1970 (UTC). */

/** One turn of a duty. */
export interface Turn {
  from: number
  to: number
  /** Whom to reach, in this order. */
  people: PersonId[]
  /** Names on the roster that stand for nobody here, or for several. */
  unknown: string[]
}

export interface OnDuty {
  /** Whom to reach now, in this order; nobody: there is a gap in the roster. */
  people: PersonId[]
  unknown: string[]
  /** When that changes; null: not as far as the roster goes. */
  until: number | null
  /** The turn that begins next. */
  next: Turn | null
}

/** @param turns of one duty; of turns at the same time, whose people are reached first comes first */
export function onDuty(turns: readonly Turn[], now: number): OnDuty {
  const present = turns.filter(({ from, to }) => from <= now && now < to)
  const later = turns.filter(({ from }) => from > now)
  const changes = [...present.map(({ to }) => to), ...later.map(({ from }) => from)]
  return {
    people: [...new Set(present.flatMap(({ people }) => people))],
    unknown: [...new Set(present.flatMap(({ unknown }) => unknown))],
    until: changes.length > 0 ? Math.min(...changes) : null,
    next: nextOf(later),
  }
}

/** What begins first, with everybody whose turn begins then. */
function nextOf(later: readonly Turn[]): Turn | null {
  const from = Math.min(...later.map(turn => turn.from))
  const first = later.filter(turn => turn.from === from)
  return first.length === 0
    ? null
    : {
        from, to: Math.min(...first.map(({ to }) => to)), people: [...new Set(first.flatMap(({ people }) => people))],
        unknown: [...new Set(first.flatMap(({ unknown }) => unknown))],
      }
}

/**
 * Whom a roster means: by extension, or by first and last name (in either order), one or several with commas, semicolons, plus signs or slashes between.
 * A name that several people have stands for none of them.
 */
export function peopleNamed(company: Company, title: string): Pick<Turn, 'people' | 'unknown'> {
  const found = partsOf(company, title)
  return { people: [...new Set(found.flatMap(({ person }) => person ?? []))], unknown: found.filter(({ person }) => person === null).map(({ name }) => name) }
}

/** A comma can stand within a name, or between two: what stands between other signs is tried whole first. */
function partsOf(company: Company, text: string, between: readonly RegExp[] = [/[;+/]/, /,/]): { name: string, person: PersonId | null }[] {
  const name = text.trim()
  if (name === '') return []
  const person = personNamed(company, name)
  const [separator, ...others] = between
  return person !== null || !separator ? [{ name, person }] : name.split(separator).flatMap(part => partsOf(company, part, others))
}

function personNamed(company: Company, name: string): PersonId | null {
  if (/^\d+$/.test(name.trim())) return telephoneWithNumber(company, name.trim())?.person ?? null
  const people = namesOf(company).get(spelled(name))
  return people?.length === 1 ? people[0]! : null
}

const spelled = (name: string) => fold(name).replace(/[\s,]+/g, ' ').trim()

const names = new WeakMap<Company['people'], Map<string, PersonId[]>>()
function namesOf({ people }: Company): Map<string, PersonId[]> {
  const known = names.get(people)
  if (known) return known
  const made = new Map<string, PersonId[]>()
  for (const { id, first, last } of Object.values(people))
    for (const name of new Set([spelled(`${first} ${last}`), spelled(`${last} ${first}`)])) made.set(name, [...made.get(name) ?? [], id])
  names.set(people, made)
  return made
}

/** The telephone on which somebody is reached: of several the one that stands for them; null when they have none. */
export function telephoneOf(company: Company, person: PersonId): string | null {
  return telephonesOf(company, person)[0]?.id ?? null
}
