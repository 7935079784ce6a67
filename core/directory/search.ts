/** One search over everybody. Works on plain entries; builds its index once and answers each keystroke from it. */

export interface DirectoryEntry {
  /** The telephone that stands for them; the person's key for somebody without one; the id of a group. */
  id: string
  /** All their telephones, the one that stands for them first. */
  telephones: string[]
  /** Their numbers inside, as they are read out; empty for somebody without a telephone. */
  extension: string
  first: string
  last: string
  nickname: string | null
  department: string
  departmentName: string
  site: string
  role: string
  room: string
  /** What people call about, in callers' words. */
  handles: string[]
  /** E.164, for those who carry one. */
  mobile: string | null
  /** A group or queue, named by `last`: found after people of that name and before the people who belong to it. */
  isGroup?: boolean
  /** A zone of loudspeakers, named by `last`: found after everybody who can be called. */
  isZone?: boolean
}

export interface Hit {
  id: string
  score: number
  /** What matched, in words, when it is not the name itself. */
  because: string | null
}

type Field = 'extension' | 'name' | 'group' | 'nickname' | 'initials' | 'department' | 'role' | 'room' | 'handles'

interface Token {
  text: string
  sound: string
  field: Field
  weight: number
  /** The words as shown, for `because`. */
  shown: string
}

export interface DirectoryIndex {
  entries: { entry: DirectoryEntry, tokens: Token[], order: string }[]
}

const weights: Record<Field, number> = {
  extension: 1.3,
  name: 1,
  nickname: 0.95,
  initials: 0.8,
  group: 0.7,
  department: 0.65,
  role: 0.6,
  handles: 0.6,
  room: 0.5,
}
const shortestMisspelled = 4
/** Fewer consonants than this are in half of all names. */
const shortestSound = 3

/** Lower case without accents; everything that is neither letter nor digit divides words. */
export function fold(text: string): string {
  return text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
}

function wordsOf(text: string): string[] {
  return fold(text).replace(/['’]/g, '').split(/[^\p{L}\p{N}]+/u).filter(Boolean)
}

/** Roughly how a word sounds: letters that are mistaken for each other become one, vowels after the first go. */
export function soundOf(word: string): string {
  return word
    .replace(/ph/g, 'f').replace(/gh/g, '').replace(/c(?=[eiy])/g, 's').replace(/ck|[cq]/g, 'k').replace(/x/g, 'ks')
    .replace(/z/g, 's').replace(/[wv]/g, 'v').replace(/y/g, 'i').replace(/(?<=.)h/g, '').replace(/(.)\1+/g, '$1')
    .replace(/(?<=.)[aeiou]/g, '')
}

export function indexDirectory(entries: readonly DirectoryEntry[]): DirectoryIndex {
  return {
    entries: entries.map(entry => ({ entry, tokens: tokensOf(entry), order: fold(`${entry.last} ${entry.first} ${entry.id}`) })),
  }
}

function tokensOf(entry: DirectoryEntry): Token[] {
  const tokens: Token[] = []
  const add = (field: Field, shown: string) => {
    for (const text of wordsOf(shown)) tokens.push({ text, sound: soundOf(text), field, weight: weights[field], shown })
  }
  add(entry.isZone ? 'room' : entry.isGroup ? 'group' : 'name', entry.last)
  add('name', entry.first)
  // A double name is also typed in one word.
  if (wordsOf(entry.last).length > 1) tokens.push({ ...tokens[0]!, text: wordsOf(entry.last).join('') })
  if (entry.nickname) add('nickname', entry.nickname)
  add('initials', `${entry.first[0] ?? ''}${entry.last[0] ?? ''}`)
  add('extension', entry.extension)
  add('department', entry.departmentName)
  add('role', entry.role)
  add('room', entry.room)
  for (const topic of entry.handles) add('handles', topic)
  return tokens
}

/**
 * The best hits for what has been typed, best first. Every word typed must match; a misspelled or misheard word counts less.
 * The order depends on the words alone, never on who is free: nobody moves under the operator's fingers.
 */
export function searchDirectory(index: DirectoryIndex, typed: string, limit: number): Hit[] {
  const words = wordsOf(typed.slice(0, 100)).slice(0, 8)
  if (words.length === 0) return []
  const wanted = words.map(text => ({ text, sound: soundOf(text) }))
  const hits: (Hit & { order: string })[] = []
  for (const { entry, tokens, order } of index.entries) {
    let score = 0
    let because: Token | null = null
    let best = 0
    for (const word of wanted) {
      const match = bestMatch(word, tokens)
      if (!match) {
        score = 0
        break
      }
      score += match.score
      if (match.score > best) {
        best = match.score
        because = match.token
      }
    }
    // Loudspeakers stand behind everybody who can be called, but for who types their whole name.
    if (entry.isZone && wordsOf(entry.last).join(' ') === words.join(' ')) score += words.length
    if (score > 0) hits.push({ id: entry.id, score, because: reason(because), order })
  }
  hits.sort((a, b) => b.score - a.score || (a.order < b.order ? -1 : 1))
  return hits.slice(0, limit).map(({ id, score, because }) => ({ id, score, because }))
}

function reason(token: Token | null): string | null {
  return token && token.field !== 'name' && token.field !== 'group' && token.field !== 'extension' && token.field !== 'initials' ? token.shown : null
}

function bestMatch(word: { text: string, sound: string }, tokens: Token[]): { score: number, token: Token } | null {
  let best: { score: number, token: Token } | null = null
  for (const token of tokens) {
    const score = likeness(word, token) * token.weight
    if (score > 0 && (!best || score > best.score)) best = { score, token }
  }
  return best
}

/** From 0 (no match) to 1 (the same word). */
function likeness(word: { text: string, sound: string }, token: Token): number {
  if (token.text === word.text) return 1
  if (token.text.startsWith(word.text)) return 0.8 + 0.1 * word.text.length / token.text.length
  if (word.text.length < shortestMisspelled || token.field === 'extension' || token.field === 'room' || token.field === 'initials') return 0
  if (word.sound.length >= shortestSound ? token.sound.startsWith(word.sound) : token.sound === word.sound) return 0.4
  if (isOneSlipAway(word.text, token.text.slice(0, word.text.length + 1))) return 0.35
  return token.text.includes(word.text) ? 0.3 : 0
}

/** One letter wrong, missing, too many, or two neighbours swapped: Damerau–Levenshtein distance 1 to the text or a beginning of it. */
export function isOneSlipAway(word: string, text: string): boolean {
  let i = 0
  while (i < word.length && i < text.length && word[i] === text[i]) i++
  // A first letter is rarely wrong; demanding it keeps the answers few.
  if (i === 0) return false
  const rest = word.slice(i)
  const there = text.slice(i)
  if (there.startsWith(rest)) return true
  return there.slice(1).startsWith(rest.slice(1)) || there.slice(1).startsWith(rest) || there.startsWith(rest.slice(1))
    || (rest.length > 1 && there[0] === rest[1] && there[1] === rest[0] && there.slice(2).startsWith(rest.slice(2)))
}
