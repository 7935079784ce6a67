import type { Party } from '../../core/calls/model'
import type { Chance } from '../company/chance'
import type { Company, Department, Person } from '../../core/company/company'
import { telephonesOf } from '../../core/company/lookups'
import type { Regular } from '../company/contacts'
import { companies, firstNames, lastNames } from '../company/names'

/** Somebody outside who wants something, and how they take waiting. Times are milliseconds. */
export interface Caller {
  party: Party
  /** The number of ours they dial, E.164. */
  number: string
  opening: string
  /** Telephones of those who can help them. */
  helpedBy: Set<string>
  /** What they say when the right person, or a wrong one, takes the call. */
  thanks: string
  wrong: string
  patience: number
  talks: number
}

const openings = {
  person: [
    'Good day, could I speak to {who}, please?', 'Is {who} about?', '{who}, please, about our appointment.', 'I have a missed call from {who}.',
  ],
  departmentPerson: ['I\'d like {who} in {department}.', 'Could you put me through to {who}? {department}, I think.'],
  topic: ['I\'m calling about {topic}.', 'Who do I talk to about {topic}?', 'It\'s about {topic}, is that you?', 'Hello, {topic}, please.'],
} as const

const callsAgain = 0.5
const asUsual = 0.85

/**
 * Invents a caller: who they are, what they dial, whom or what they ask for and how they say it. About half of them have called before.
 * @param about the department that most of them ask for just now
 */
export function inventCaller(company: Company, chance: Chance, regulars: readonly Regular[], at: number, about?: string | null): Caller {
  if (about && chance.happens(0.8)) return stranger(company, chance, about)
  return regulars.length > 0 && chance.happens(callsAgain) ? regularCaller(company, chance, chance.pick(regulars), at) : stranger(company, chance)
}

/** Who calls again wants what they usually want, mostly. */
function regularCaller(company: Company, chance: Chance, regular: Regular, at: number): Caller {
  const { department, telephone } = regular.wants(at)
  const person = company.people[company.telephones[telephone ?? '']?.person ?? '']
  const usual = person ? () => personWish(company, person, chance) : () => topicWish(company, chance, department)
  const wants = chance.happens(asUsual) ? usual() : topicWish(company, chance)
  const party = { number: regular.number, name: chance.happens(0.3) ? regular.name : null }
  return callerWho(company, chance, party, chance.happens(0.5) ? `${regular.name}${regular.firm ? ` from ${regular.firm}` : ''} here. ` : '', wants)
}

function stranger(company: Company, chance: Chance, about?: string): Caller {
  const name = `${chance.pick(firstNames)} ${chance.pick(lastNames)}`
  const party = { number: chance.happens(0.06) ? null : outsideNumber(chance), name: chance.happens(0.55) ? name : null }
  const operators = company.groups[company.settings.operators]!.members
  const reachable = Object.values(company.people).filter(
    ({ id }) => telephonesOf(company, id)[0] && !telephonesOf(company, id).some(telephone => operators.includes(telephone.id)),
  )
  const wants = about === undefined && chance.happens(0.5) ? personWish(company, chance.pick(reachable), chance) : topicWish(company, chance, about)
  const hello = chance.happens(0.5) ? `${name}${chance.happens(0.5) ? ` from ${chance.pick(companies)}` : ''} here. ` : ''
  return callerWho(company, chance, party, hello, wants)
}

function callerWho(company: Company, chance: Chance, party: Party, hello: string, wants: Wish): Caller {
  const direct = company.telephones[[...wants.helpedBy][0]!]?.direct
  return {
    party,
    number: chance.happens(0.08) && direct ? direct : lineFor(company, wants.department, chance),
    opening: hello + wants.opening,
    helpedBy: wants.helpedBy,
    thanks: chance.pick(['Ah, good, you are just the person.', 'Thank you, that was quick.', 'Good, I hoped to reach you.']),
    wrong: `Oh. ${wants.opening} Can you help with that?`,
    patience: 35_000 + chance.gap(45_000),
    // A crossing for a family with a car takes its time.
    talks: wants.department === 'reservations' ? 120_000 + chance.gap(90_000) : 20_000 + chance.gap(40_000),
  }
}

/** A number from the ranges set aside for fiction. The first hundred mobiles are those of Merrowby's own people: nobody outside calls from one. */
export function outsideNumber(chance: Chance): string {
  const tail = chance.between(0, 999)
  return chance.happens(0.5) ? `+447700900${tail < 100 ? tail + 900 : tail}` : `+442079460${String(tail).padStart(3, '0')}`
}

interface Wish { opening: string, helpedBy: Set<string>, department: string }

function personWish(company: Company, person: Person, chance: Chance): Wish {
  const department = company.departments[person.department]!
  const who = chance.pick([`${person.first} ${person.last}`, `${person.first} ${person.last}`, `${person.nickname ?? person.first} ${person.last}`])
  const template = chance.happens(0.4) ? chance.pick(openings.departmentPerson) : chance.pick(openings.person)
  return {
    opening: template.replace('{who}', who).replace('{department}', department.name),
    helpedBy: new Set(telephonesOf(company, person.id).map(({ id }) => id)),
    department: department.id,
  }
}

function topicWish(company: Company, chance: Chance, of?: string): Wish {
  const departments: Department[] = Object.values(company.departments).filter(department => department.id !== 'relay')
  const department = (of !== undefined && company.departments[of]) || chance.pick(departments)
  return {
    opening: sentence(chance.pick(openings.topic).replace('{topic}', chance.pick(department.handles))),
    helpedBy: new Set(
      Object.values(company.people)
        .filter(person => person.department === department.id)
        .flatMap(person => telephonesOf(company, person.id).map(({ id }) => id)),
    ),
    department: department.id,
  }
}

function sentence(text: string): string {
  return text[0]!.toUpperCase() + text.slice(1)
}

function lineFor(company: Company, department: string, chance: Chance): string {
  const lines = Object.values(company.lines)
  const own = company.lines[department]
  const line = own && chance.happens(department === 'reservations' ? 0.85 : 0.6) ? own : chance.happens(0.85) ? lines[0]! : chance.pick(lines)
  return line.number
}
