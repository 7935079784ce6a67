import type { Company } from '../company/company'

/** What a recogniser listens for: the names of the company, and nothing else. */
export interface Grammar {
  /** Each word once, in lower case; its place is its name in the grammar. */
  words: readonly string[]
  /** In the format of JSGF 1.0 (W3C note, 2000), with words by their place: "w12". */
  jsgf: string
  /** What was meant by words in this order, "w12 w4": as it is searched for. */
  meant: ReadonlyMap<string, string>
}

/** So many names are listened for at most: more take longer than one waits. */
const most = 6_000
/** A last name alone is taken for it only where no whole name fits: more are told apart by both. */
const alone = 0.0001

const head = ['#JSGF V1.0;', 'grammar names;', 'public <name> = '].join('\n')

const wordsIn = (name: string) => name.toLowerCase().match(/[\p{L}\p{M}]+(?:['’][\p{L}\p{M}]+)*/gu) ?? []

/** People by first (or nick-) and last name and by their last name alone; groups and places by their name. */
export function grammarOf({ people, groups, telephones }: Pick<Company, 'people' | 'groups' | 'telephones'>): Grammar {
  const words = new Map<string, number>()
  const meant = new Map<string, string>()
  const weights = new Map<string, number>()
  const add = (said: string, means: string, weight: number) => {
    const key = wordsIn(said).map((word) => {
      if (!words.has(word)) words.set(word, words.size)
      return `w${words.get(word)}`
    }).join(' ')
    if (key === '' || meant.has(key) || meant.size >= most) return
    meant.set(key, means)
    weights.set(key, weight)
  }
  const all = Object.values(people)
  for (const { first, last } of all) add(`${first} ${last}`, `${first} ${last}`, 1)
  for (const { first, last, nickname } of all) if (nickname) add(`${nickname} ${last}`, `${first} ${last}`, 1)
  for (const { name } of Object.values(groups)) add(name, name, 1)
  for (const { name, person } of Object.values(telephones)) if (person === null) add(name, name, 1)
  for (const { last } of all) add(last, last, alone)
  const names = [...meant.keys()].map(key => `/${weights.get(key)}/ ${key}`).join(' | ')
  return { words: [...words.keys()], jsgf: `${head}${names};\n`, meant }
}
