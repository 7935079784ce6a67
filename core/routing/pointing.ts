import type { Company, Department, Person } from '../company/company'
import { telephonesOf } from '../company/lookups'
import { fold, stem, wordsOf } from '../directory/folding'
import { cues, introduced, introducing, little } from './how-callers-ask'

/**
 * Whom the words of a caller point to: a name that they ask for, a subject that a department is there for, a department by its name. A proposal, no more:
 * whoever is meant is for the operator to say. What callers call themselves points to nobody.
 */

export interface Pointed {
  /** A telephone or a group. */
  destination: string
  /** What was said of them. */
  words: string
  /** Nobody else can be meant by it. */
  plain: boolean
}

interface Subject { words: string[], group: string, department: string, shown: string }

/** Everybody who can be asked for, by the first word of their last name and by their first names; and every subject, by one of its words. */
interface Pointers { company: Company, byLast: Map<string, Person[]>, byFirst: Map<string, Person[]>, bySubject: Map<string, Subject[]> }

const cueWithin = 3
const most = 3
/** What each way of being named is worth; of a subject every word more. */
const worth = { whole: 3, asked: 2, first: 1.5, subject: 1, perWord: 0.2, alsoNamed: 0.5 }
/** Departments with a shorter name are not known by it: "IT" is a word of every other sentence. */
const shortestName = 3

/** Most names are one plain word. */
const wordsIn = (text: string) => /^[A-Za-z]+$/.test(text) ? [text.toLowerCase()] : wordsOf(fold(text))
const subjectWords = (text: string) => wordsIn(text).filter(word => !little.has(word)).map(stem)

/** Made once for a company: of its people no more than where they are found, for there may be thousands. */
function pointersOf(company: Company): Pointers {
  const pointers: Pointers = { company, byLast: new Map(), byFirst: new Map(), bySubject: new Map() }
  const add = <T>(map: Map<string, T[]>, key: string | undefined, one: T) => {
    if (key === undefined) return
    const known = map.get(key)
    if (known) known.push(one)
    else map.set(key, [one])
  }
  for (const person of Object.values(company.people)) {
    add(pointers.byLast, wordsIn(person.last)[0], person)
    for (const given of firstNames(person)) add(pointers.byFirst, given, person)
  }
  for (const department of Object.values(company.departments)) {
    const group = groupOf(company, department)
    if (group === undefined) continue
    const subject = (shown: string): Subject => ({ words: subjectWords(shown), group, department: department.id, shown })
    for (const one of [...department.handles, ...department.name.length >= shortestName ? [department.name] : []].map(subject))
      add(pointers.bySubject, one.words[0], one)
  }
  return pointers
}

const firstNames = ({ first, nickname }: Person) => nickname ? [...wordsIn(first), ...wordsIn(nickname)] : wordsIn(first)

/** Whoever rings for a department: its group, before its queue. */
function groupOf(company: Company, { id }: Department): string | undefined {
  const groups = Object.values(company.groups).filter(({ department }) => department === id)
  return (groups.find(({ distribution }) => distribution !== 'queue') ?? groups[0])?.id
}

const made = new WeakMap<Company, Pointers>()

/** Whom a caller's words point to in a company, the plainest first; nobody, when they name nobody. */
export function pointedIn(company: Company, said: string): Pointed[] {
  const pointers = made.get(company) ?? pointersOf(company)
  made.set(company, pointers)
  return pointedAt(pointers, said)
}

function pointedAt(pointers: Pointers, said: string): Pointed[] {
  const scores = new Map<string, { score: number, words: string, department: string }>()
  const point = (destination: string, score: number, words: string, department: string) => {
    if ((scores.get(destination)?.score ?? 0) < score) scores.set(destination, { score, words, department })
  }
  for (const sentence of said.split(/[.?!;]+(?=\s+[^\s\p{Ll}]|\s*$)/u).map(part => part.trim()).filter(part => part !== '' && !introduced.test(part))) {
    const own = introducing.exec(sentence)
    const after = own ? sentence.slice(own[0].length).split(',').slice(1).join(',') : sentence
    pointIn(pointers, wordsIn(after), point)
  }
  // A person of the department that is named as well is the one who is meant.
  const departments = new Set([...scores.values()].filter(({ score }) => score < worth.first).map(({ department }) => department))
  for (const one of scores.values()) if (one.score >= worth.first && departments.has(one.department)) one.score += worth.alsoNamed
  const ranked = [...scores].sort(([a, one], [b, other]) => other.score - one.score || (a < b ? -1 : 1))
  const [best, next] = ranked
  const isPlain = best !== undefined && best[1].score > (next?.[1].score ?? 0)
  return ranked.slice(0, most).map(([destination, { words }], at) => ({ destination, words, plain: at === 0 && isPlain }))
}

function pointIn(pointers: Pointers, words: readonly string[], point: (destination: string, score: number, words: string, department: string) => void): void {
  const pointTo = ({ id, department }: Person, score: number, said: string) => {
    const [telephone] = telephonesOf(pointers.company, id)
    if (telephone) point(telephone.id, score, said, department)
  }
  const isAskedFor = (at: number) => words.slice(Math.max(0, at - cueWithin), at).some(word => cues.has(word))
  const stems = new Set(words.map(stem))
  for (const [at, word] of words.entries()) {
    const named = (pointers.byLast.get(word) ?? []).filter(({ last }) => wordsIn(last).every((part, after) => words[at + after] === part))
    const whole = at === 0 ? [] : named.filter(person => firstNames(person).includes(words[at - 1]!))
    for (const person of whole) pointTo(person, worth.whole, `${person.first} ${person.last}`)
    // A name by itself is one; within a sentence it may be a word like any other.
    for (const person of whole.length > 0 ? [] : named)
      if (words.length === wordsIn(person.last).length || isAskedFor(at)) pointTo(person, worth.asked, person.last)
    const alike = pointers.byFirst.get(word) ?? []
    if (alike.length === 1 && isAskedFor(at)) pointTo(alike[0]!, worth.first, alike[0]!.first)
    for (const { words: its, group, department, shown } of pointers.bySubject.get(stem(word)) ?? [])
      if (its.every(part => stems.has(part))) point(group, worth.subject + worth.perWord * its.length, shown, department)
  }
}
