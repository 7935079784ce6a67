import { type Heard, heardPeople } from './people'

/**
 * 500 queries with who is meant. Written before the search was tuned; every second one of each kind is kept aside and looked at only at the end. Those that
 * can be made by a rule (a beginning, a slip of the finger) are made by a fixed one, so that nobody chose the easy ones.
 */

export const kinds = [
  'beginning', 'inside', 'both', 'initials', 'nickname', 'former', 'department', 'title', 'number', 'room', 'topic', 'spelling', 'joined', 'slip', 'misheard',
] as const
export type Kind = typeof kinds[number]

/** `right`: the extensions of those who are meant; any of them is right. */
export interface Query { kind: Kind, typed: string, right: string[], aside: boolean }

/** Numbers that look random and are the same every time (a linear congruential generator; constants of Numerical Recipes). */
function numbersFrom(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 32
  }
}

const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').replace(/[øØ]/g, 'o').replace(/[łŁ]/g, 'l').replace(/[æÆ]/g, 'ae')
  .replace(/ß/g, 'ss').replace(/ð/g, 'd').replace(/[þÞ]/g, 'th').toLowerCase()
const compact = (text: string) => plain(text).replace(/[^a-z]/g, '')

/** One slip of the finger up to five letters, two beyond. */
function slipped(word: string, chance: () => number): string {
  let letters = [...word]
  for (let left = word.length <= 5 ? 1 : 2; left > 0; left--) {
    const at = 1 + Math.floor(chance() * (letters.length - 2))
    const other = 'abcdefghijklmnopqrstuvwxyz'[Math.floor(chance() * 26)]!
    const kind = Math.floor(chance() * 4)
    if (kind === 0) letters.splice(at, 1)
    else if (kind === 1) letters.splice(at, 0, other)
    else if (kind === 2) letters[at] = other
    else letters = [...letters.slice(0, at), letters[at + 1] ?? '', letters[at]!, ...letters.slice(at + 2)]
  }
  return letters.join('')
}

/** By words that callers and operators use for what somebody looks after; right is anybody of that department, or the group. */
const topics: [typed: string, department: string][] = [
  ['damaged lorry', 'claims'], ['compensations', 'claims'], ['insurance cheque', 'claims'], ['lorries', 'claims'], ['hull', 'colour'], ['sign', 'colour'],
  ['name plate', 'colour'], ['tide table', 'berths'], ['mooring query', 'berths'], ['harbour berth', 'berths'], ['show', 'theatre'], ['musician', 'theatre'],
  ['crew pass', 'licences'], ['fishing permit', 'licences'], ['gift', 'catalogue'], ['parcel', 'catalogue'], ['hire car', 'tyres'], ['towing', 'tyres'],
  ['agreement', 'organisation'], ['staff entrances', 'organisation'], ['travelling party', 'organisation'], ['child theatre', 'theatre'],
]
const spellings: [typed: string, department: string][] = [
  ['color', 'colour'], ['hull colors', 'colour'], ['harbor berths', 'berths'], ['theater', 'theatre'],
  ['license', 'licences'], ['driving licenses', 'licences'], ['catalog', 'catalogue'], ['gift catalogs', 'catalogue'], ['jewelry', 'catalogue'],
  ['tires', 'tyres'], ['tire', 'tyres'], ['works organization', 'organisation'],
  ['traveling parties', 'organisation'], ['labor', 'organisation'], ['labor agreements', 'organisation'], ['insurance checks', 'claims'],
]

function made(): Omit<Query, 'aside'>[] {
  const chance = numbersFrom(4711)
  const all: Omit<Query, 'aside'>[] = []
  const add = (kind: Kind, typed: string, ...right: Heard[]) => all.push({ kind, typed, right: right.map(({ extension }) => extension) })
  const every = (step: number, from = 0) => heardPeople.filter((_, index) => index % step === from)
  for (const one of every(3)) add('beginning', compact(one.last).slice(0, 5), one)
  for (const one of every(4, 1)) add('inside', compact(one.last).slice(3, 9), one)
  for (const one of every(4, 2)) add('both', `${plain(one.last)} ${plain(one.first).slice(0, 3)}`, one)
  for (const one of every(9, 4)) add('initials', `${plain(one.first)[0]}${plain(one.last)[0]} ${plain(one.departmentName).split(' ')[0]}`, one)
  for (const one of heardPeople) if (one.nickname) add('nickname', `${plain(one.nickname)} ${compact(one.last).slice(0, 3)}`, one)
  for (const one of heardPeople) if (one.former) add('former', plain(one.former), one)
  for (const one of every(5, 3)) add('department', `${plain(one.first)} ${plain(one.departmentName).split(' ')[0]}`, one)
  for (const one of every(6, 5)) add('title', `${compact(one.first).slice(0, 4)} ${plain(one.role).split(' ').at(-1)}`, one)
  every(5, 1).forEach(({ extension, mobile, ...one }, index) => {
    const national = mobile.replace('+44', '0')
    const [start, end] = [national.slice(0, 5), national.slice(5)]
    const forms = [extension, mobile, national, `${start} ${end}`, `0044 (0) ${start.slice(1)}-${end}`, national.slice(-6)]
    add('number', forms[index % forms.length]!, { extension, mobile, ...one })
  })
  for (const one of every(9, 7)) add('room', plain(one.room), one)
  for (const [typed, department] of topics) add('topic', typed, ...heardPeople.filter(one => one.department === department))
  for (const [typed, department] of spellings) add('spelling', typed, ...heardPeople.filter(one => one.department === department))
  for (const one of every(7, 1)) add('joined', `${compact(one.first)}${compact(one.last)}`, one)
  for (const one of every(7, 4)) add('joined', `${compact(one.last).slice(0, 5)} ${compact(one.last).slice(5)}`, one)
  for (const one of every(2, 1)) add('slip', slipped(compact(one.last), chance), one)
  for (const one of heardPeople) for (const typed of one.misheard) add('misheard', typed, one)
  return all
}

export const queries: Query[] = kinds.flatMap(kind => made().filter(query => query.kind === kind).map((query, index) => ({ ...query, aside: index % 2 === 1 })))
