import type { Company } from '../core/company/company'
import type { Conversation } from '../core/routing/conversation'
import { departmentOf, likelyDestinations } from '../core/routing/likely'
import { chanceFrom, type Chance } from '../demo/company/chance'

/** How well likely destinations are foretold: made-up months of callers with hidden habits, some of which change. */

const day = 24 * 60 * 60_000
const hour = 60 * 60_000
const begins = Date.UTC(2031, 0, 1)

interface Habit { from: number, shares: [string, number][] }
interface Regular { number: string, company: string | null, line: string, perMonth: number, habits: Habit[] }
interface Happening { conversation: Conversation, regular: Regular | null, shares: [string, number][] }

/** One destination mostly, another now and then, the rest anywhere. */
function habit(chance: Chance, from: number, ends: readonly string[], usual: string): Habit {
  const first = chance.happens(0.65) ? usual : chance.pick(ends)
  return { from, shares: [[first, 0.72], [chance.pick(ends), 0.16], ...Array.from({ length: 4 }, (): [string, number] => [chance.pick(ends), 0.03])] }
}

function drawn(chance: Chance, shares: readonly [string, number][]): string {
  let left = chance.next() * shares.reduce((sum, [, share]) => sum + share, 0)
  return (shares.find(([, share]) => (left -= share) < 0) ?? shares[0]!)[0]
}

function happenings(company: Company, seed: number, months: number): Happening[] {
  const chance = chanceFrom(seed)
  const groups = Object.values(company.groups).filter(({ id, department }) => department && id !== company.settings.operators).map(({ id }) => id)
  const people = Object.values(company.telephones).filter(({ person }) => person).map(({ id }) => id).filter(() => chance.happens(0.3))
  const ends = [...groups, ...groups, ...people]
  const lines = Object.keys(company.lines)
  const length = months * 30 * day
  const regulars = Array.from({ length: 90 }, (_, index): Regular => {
    const firm = index < 60 ? `firm-${index % 20}` : null
    const usual = groups[(index % 20) % groups.length]!
    const habits = [habit(chance, 0, ends, usual)]
    for (let at = chance.gap(80 * day); at < length; at += chance.gap(80 * day)) habits.push(habit(chance, at, ends, usual))
    return { number: `+4420794600${10 + index}`, company: firm, line: chance.pick(lines), perMonth: 1 + chance.gap(5), habits }
  })
  const made: Happening[] = []
  const tell = (at: number, regular: Regular | null, line: string, shares: [string, number][]) => {
    const end = drawn(chance, shares)
    const group = groups.includes(end) ? end : null
    const number = regular?.number ?? `+44770090${chance.between(1000, 9999)}`
    const device = group ? company.groups[group]!.members[0]! : end
    made.push({ regular, shares, conversation: { call: `c${made.length}`, number, line, at: begins + at, device, group } })
  }
  for (const regular of regulars) {
    for (let at = chance.gap(30 * day / regular.perMonth); at < length; at += chance.gap(30 * day / regular.perMonth)) {
      const now = regular.habits.findLast(({ from }) => from <= at)!
      tell(at - at % day + (8 + chance.next() * 9) * hour, regular, regular.line, now.shares)
    }
  }
  // Everybody else: what is asked on a line in the morning is not what is asked in the afternoon.
  for (let at = 0; at < length; at += chance.gap(0.12 * day)) {
    const of = Math.floor(chance.next() * lines.length)
    const morning = chance.happens(0.5)
    const kind = groups[(of * 2 + (morning ? 0 : 1)) % groups.length]!
    const anything = groups.map((id): [string, number] => [id, 0.4 / groups.length])
    tell(at - at % day + ((morning ? 8 : 13) + chance.next() * 4) * hour, null, lines[of]!, [[kind, 0.6], ...anything])
  }
  return made.sort((a, b) => a.conversation.at - b.conversation.at)
}

/** Shares of calls whose end was foretold first, and among the first three, beside three other ways to guess. */
export function foretelling(company: Company, seed: number, months = 6) {
  const past: Conversation[] = []
  const companyOf = new Map<string, string>()
  const hits = { learned: [0, 0], mostFrequent: [0, 0], last: [0, 0], best: [0, 0] }
  let asked = 0
  const all = happenings(company, seed, months)
  const { groups } = company
  const name = (id: string) => id
  for (const { conversation, regular, shares } of all) {
    if (regular?.company) companyOf.set(regular.number, regular.company)
    if (conversation.at > begins + 30 * day) {
      const end = conversation.group ?? conversation.device
      const mine = past.filter(({ number }) => number === conversation.number).reverse()
      const firm = regular?.company ? past.filter(({ number }) => companyOf.get(number!) === regular.company).reverse() : mine
      const line = past.slice(-4_000).filter(one => one.line === conversation.line).reverse().slice(0, 1_000)
      const counted = ranked(past.slice(-2_000))
      const guesses = {
        learned: likelyDestinations(company, { number: mine.slice(0, 60), company: firm.slice(0, 120), line }, {
          caller: '', company: regular?.company ?? null, line: conversation.line, lineName: '', now: conversation.at,
        }, name).map(({ destination }) => destination),
        mostFrequent: counted,
        last: [...new Set([...mine.map(endOf), ...counted])],
        best: [...new Map([...shares].sort((a, b) => b[1] - a[1])).keys()],
      }
      // Whoever is sent to a group or queue is well served when the end was it, or anybody of its department.
      const department = departmentOf(company, end)
      const right = (guess = '') => guess === end || (department !== null && groups[guess] !== undefined && departmentOf(company, guess) === department)
      asked++
      for (const [kind, guess] of Object.entries(guesses) as [keyof typeof hits, string[]][]) {
        if (right(guess[0])) hits[kind][0]!++
        if (guess.slice(0, 3).some(right)) hits[kind][1]!++
      }
    }
    past.push(conversation)
  }
  const share = ([first, three]: number[]) => ({ first: Number((first! / asked).toFixed(3)), three: Number((three! / asked).toFixed(3)) })
  return { calls: asked, learned: share(hits.learned), mostFrequent: share(hits.mostFrequent), last: share(hits.last), best: share(hits.best) }
}

const endOf = ({ group, device }: Conversation) => group ?? device

function ranked(conversations: readonly Conversation[]): string[] {
  const counts = new Map<string, number>()
  for (const conversation of conversations) counts.set(endOf(conversation), (counts.get(endOf(conversation)) ?? 0) + 1)
  return [...counts].sort(([, a], [, b]) => b - a).map(([end]) => end)
}
