import { phrase, type Phrase } from '../../words/phrase'
import type { Changes } from './changes'
import { fold, stem, unmarked, wordsOf } from './folding'
import { bySlip } from './near'
import { nobodyPreferred, type Preferred, preferenceOf } from './preference'
import { bySound, readingsOf, soundOf } from './sounds'
import { isDigit, WordLists } from './word-lists'
import { spelled } from '../numbers/spelling'

/**
 * One search over everybody: people, places, groups, queues. It works on plain entries, answers each keystroke from an index, and takes changes one by one.
 * What was typed is compared with each word of an entry in five ways: as it is written, as the beginning, as another form of the same word, as a slip of the
 * finger, and as it sounds.
 */

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
  /** The last name they had before. */
  former: string | null
  department: string
  departmentName: string
  site: string
  role: string
  room: string
  /** What people call about, in callers' words. */
  handles: string[]
  /** E.164, for those who carry one. */
  mobile: string | null
  /** The number that reaches them from outside, E.164. */
  direct: string | null
  /** A group or queue, named by `last`: found after people of that name and before the people who belong to it. */
  isGroup?: boolean
  /** Somebody outside, named by `last`, with all their numbers (E.164). */
  numbers?: string[]
  /** Whoever is at the place now, and may be asked for. */
  occupants?: string[]
  /** A zone of loudspeakers, named by `last`: found after everybody who can be called. */
  isZone?: boolean
}

export interface Hit {
  id: string
  score: number
  /** What matched, in words, when it is not plain. */
  because: Phrase | null
}

/** Where a word stands in an entry, what it is worth there, and whether it may be misheard or only mistyped. */
const fields = [
  { name: 'extension', weight: 1.3, exact: true },
  { name: 'name', weight: 1 },
  { name: 'nickname', weight: 0.95 },
  { name: 'former', weight: 0.9 },
  { name: 'occupant', weight: 0.95 },
  { name: 'initials', weight: 0.8, exact: true },
  { name: 'group', weight: 0.7 },
  { name: 'department', weight: 0.65 },
  { name: 'role', weight: 0.6 },
  { name: 'handles', weight: 0.6 },
  // What somebody calls about leads to the whole office first.
  { name: 'topics', weight: 0.61 },
  { name: 'room', weight: 0.5, exact: true },
] as const
type Field = typeof fields[number]['name']
const fieldAt = new Map<Field, number>(fields.map(({ name }, index) => [name, index]))
const weights = Float32Array.from(fields, ({ weight }) => weight)
const isName = Uint8Array.from(fields, ({ name }) => ['name', 'nickname', 'former', 'occupant'].includes(name) ? 1 : 0)
const isExact = Uint8Array.from(fields, field => 'exact' in field ? 1 : 0)
/** No name, and no number, is found so well. */
const wholeExtension = weights[0]!
/** Chances double a score at most. */
const aboveAll = 2 * wholeExtension
/** In a posting: the entry and the field in one number. */
const fieldBits = 4

/** How much a way of matching counts against the word itself. */
const otherForm = 0.97
/** Names have no other forms: who says "berths" means no place called Berth before the office that has them. */
const formOfName = 0.6
const beginning = 0.8
const ofLength = 0.1
const slip = [0.6, 0.5] as const
const heard = 0.62
const perCost = 0.0022
/** What is missing behind what was misheard or mistyped: whoever types a whole word means the whole word. */
const ofRest = 0.25
const inside = 0.4
const perLetterInside = 0.035
const joined = 0.97
const twoNames = 0.9
const withoutTitle = 0.98
const shortestHalf = 3
const shortestSlip = 4
const shortestSound = 3
const shortestInside = 3
const mostTyped = 100
const mostWords = 8
const shortestNumber = 3
/** More than those at the end of a number, and digits anywhere in it, beside the extension (1.3 as a whole, from 1.04 as its beginning). */
const atItsEnd = 1.25
const within = 0.9
/** What a misheard word may cost at most, however long it is. */
const mostHeard = 230
const perSound = 26
const allowance = 10
/** Who is only like what was typed, and so much worse than the best, is not meant. */
const farBehind = 0.62
/** Scores that differ by less are the same. */
const sameScore = 1e-5

interface Word {
  text: string
  /** Entry << fieldBits | field. */
  postings: number[]
  /** It may stand in a place where it is heard, not only read. */
  spoken: boolean
}

type How = 'written' | 'heard' | 'slip' | 'form'
const ways = ['written', 'heard', 'slip', 'form'] as const satisfies readonly How[]
const isForm = ways.indexOf('form')
const isPlain = (how: number) => how === 0 || how === isForm

/** Words of the directory that what was typed may mean, each with its likeness to it, from 0 to 1. */
type Likes = Map<Word, { likeness: number, how: number }>

/** Of words that are only like what was typed, no more than the most like are looked at; so many typed words are remembered with what is like them. */
const mostNear = 100
const mostRemembered = 48

export class Directory {
  private readonly entries: (DirectoryEntry | null)[] = []
  private readonly at = new Map<string, number>()
  /** By which equals stand in order: their names, made when they are needed. */
  private readonly order: (string | undefined)[] = []
  private readonly words = new Map<string, Word>()
  /** The digits of an entry's numbers. */
  private readonly numbers = new Map<number, string[]>()
  private readonly zones: number[] = []
  /** All words, the lists with the most first. */
  private lists: WordLists<Word>[] = []
  /** Words that are in no list yet, or are spoken since they came into one. */
  private readonly fresh = new Map<string, { word: Word, sounds: readonly string[] }>()
  /** What is like words that were typed a moment ago: most keystrokes change the last word alone. */
  private remembered = new Map<string, Likes>()
  /** For each entry while a search goes on: the sum so far and the best of the present word, what has to be explained, and the best of all readings. */
  private sum = new Float32Array(0)
  private best = new Float32Array(0)
  private round = new Uint8Array(0)
  private why = new Uint8Array(0)
  private total = new Float32Array(0)
  private reason = new Uint8Array(0)

  constructor(entries: Iterable<DirectoryEntry>) {
    for (const entry of entries) this.put(entry)
    this.prepare()
  }

  get size(): number {
    return this.at.size
  }

  entry(id: string): DirectoryEntry | undefined {
    const at = this.at.get(id)
    return at === undefined ? undefined : this.entries[at] ?? undefined
  }

  /** Takes over what has changed. */
  take({ put, removed }: Changes): void {
    for (const id of removed) this.remove(id)
    for (const entry of put) this.put(entry)
  }

  /** Takes an entry in, or in the place of the one with its id. */
  put(entry: DirectoryEntry): void {
    this.remove(entry.id)
    const at = this.entries.length
    this.entries.push(entry)
    this.at.set(entry.id, at)
    if (entry.isZone) this.zones.push(at)
    const add = (field: Field, shown: string) => {
      for (const [text, as] of formsOf(shown, field)) this.post(text, at, fieldAt.get(field)!, as)
    }
    const named: Field = entry.isZone ? 'room' : entry.isGroup ? 'group' : 'name'
    add(named, entry.last)
    add('name', entry.first)
    const parts = wordsOf(fold(entry.last))
    // A double name is also typed in one word.
    if (parts.length > 1) this.post(parts.join(''), at, fieldAt.get(named)!, parts.join(''))
    if (entry.nickname) add('nickname', entry.nickname)
    if (entry.former) add('former', entry.former)
    for (const occupant of entry.occupants ?? []) add('occupant', occupant)
    for (const initials of initialsOf(entry)) add('initials', initials)
    add('extension', entry.extension)
    add('department', entry.departmentName)
    add('role', entry.role)
    add('room', entry.room)
    for (const topic of entry.handles) add(entry.isGroup ? 'topics' : 'handles', topic)
    const numbers = [entry.mobile, entry.direct, ...entry.numbers ?? [], ...entry.extension.split(', ')].flatMap(number => number?.replace(/\D/g, '') || [])
    if (numbers.length > 0) this.numbers.set(at, numbers)
    this.remembered.clear()
  }

  /** Forgets an entry. */
  remove(id: string): void {
    const at = this.at.get(id)
    if (at === undefined) return
    this.at.delete(id)
    // Its postings lead to nothing from now on.
    this.entries[at] = null
    this.numbers.delete(at)
  }

  private post(text: string, entry: number, field: number, as: string): void {
    if (!text) return
    let word = this.words.get(text)
    if (!word) {
      word = { text, postings: [], spoken: false }
      this.words.set(text, word)
      this.fresh.set(text, { word, sounds: [] })
    }
    if (!('exact' in fields[field]!) && !word.spoken) {
      word.spoken = true
      this.fresh.set(text, { word, sounds: readingsOf(as) })
    }
    word.postings.push(entry << fieldBits | field)
  }

  private prepare() {
    if (this.total.length < this.entries.length) {
      const size = Math.ceil(this.entries.length * 1.25) + 16
      for (const name of ['sum', 'best', 'total'] as const) this[name] = new Float32Array(size)
      for (const name of ['round', 'why', 'reason'] as const) this[name] = new Uint8Array(size)
    }
    if (this.fresh.size > 0) {
      let latest = WordLists.of(this.fresh)
      this.fresh.clear()
      // The more there are in a list, the more seldom it is made anew.
      for (let before = this.lists.at(-1); before && before.size < 2 * latest.size; before = this.lists.at(-1)) latest = this.lists.pop()!.with(latest)
      this.lists.push(latest)
    }
    return this.lists
  }

  /**
   * The best hits for what has been typed, best first. Every word typed must match, but for titles and little words. Who is probably meant counts for more; the
   * order of equals depends on who is preferred and on their names, at the moment of asking: nobody moves under the operator's fingers.
   */
  search(typed: string, limit: number, preferred: Preferred = nobodyPreferred): Hit[] {
    const text = typed.slice(0, mostTyped)
    const words = wordsOf(fold(text)).slice(0, mostWords)
    if (words.length === 0 || limit < 1) return []
    this.prepare()
    const found: number[] = []
    const { total, reason } = this
    const keep = (part: readonly string[], factor: number, nearly: boolean) => this.match(part, nearly, factor, found)
    const said = spelled(text)
    const place = said && !said.number ? { field: 'extension' as const, words: [said.extension!] } : placeOf(words)
    if (place) this.onlyIn(place.field, place.words, found)
    const meant = place ? words : withoutTitles(words)
    // Two words may be one name.
    const asOne = (most: number, nearly: boolean) => {
      for (let at = 0; at + 1 < meant.length && meant.length <= most; at++)
        keep([...meant.slice(0, at), meant[at]! + meant[at + 1]!, ...meant.slice(at + 2)], joined, nearly)
    }
    keep(words, 1, false)
    if (meant !== words) {
      // Whose title it is stands before the others of that name.
      const titled = [...found]
      keep(meant, withoutTitle, false)
      for (const entry of titled) total[entry]! /= withoutTitle
    }
    asOne(4, false)
    const plain = found.length
    // Who asks for a room or an extension means that one, and nobody who sounds like it.
    if (plain < limit && !place) {
      keep(meant, meant === words ? 1 : withoutTitle, true)
      asOne(3, true)
      if (meant.length === 1) this.halves(meant[0]!, keep)
    }
    if (said) {
      for (const { entry, score } of this.byNumber(said.number || said.extension!)) {
        if (total[entry] === 0) found.push(entry)
        if (score <= total[entry]!) continue
        total[entry] = score
        reason[entry] = fieldAt.get('extension')!
      }
    }
    // Who types a whole extension means that one, whoever is probable.
    for (const entry of found) if (total[entry]! >= wholeExtension) total[entry]! += aboveAll
    // Loudspeakers stand behind everybody who can be called, but for who types their whole name.
    for (const entry of this.zones) {
      const { last } = this.entries[entry] ?? { last: '' }
      if (total[entry]! > 0 && wordsOf(fold(last)).join(' ') === words.join(' ')) total[entry]! += 1
    }
    const left = plain < limit ? this.meantOf(found) : found
    for (const [id, chance] of preferred.probable) {
      const entry = this.at.get(id)
      if (entry !== undefined) total[entry]! *= 1 + chance
    }
    const hits = this.ranked(left, limit, id => preferenceOf(id, preferred)).map((entry): Hit => ({
      id: this.entries[entry]!.id, score: total[entry]!, because: reasonOf(this.entries[entry]!, reason[entry]!, words),
    }))
    for (const entry of found) total[entry] = 0
    return hits
  }

  /** Finds those whose room, or whose extension, the words are. */
  private onlyIn(field: Field, words: readonly string[], found: number[]): void {
    const all: number[] = []
    this.match(words, false, 1, all)
    for (const entry of all) {
      if (this.reason[entry] === fieldAt.get(field)) found.push(entry)
      else this.total[entry] = 0
    }
  }

  /** Those found without whoever is only like what was typed, and far behind the best. */
  private meantOf(found: readonly number[]): number[] {
    const { total, reason } = this
    let best = 0
    for (const entry of found) if (total[entry]! > best) best = total[entry]!
    return found.filter(entry => isPlain(reason[entry]! >> fieldBits) || total[entry]! >= best * farBehind)
  }

  /** One word that is two names. */
  private halves(word: string, keep: (part: readonly string[], factor: number, nearly: boolean) => void): void {
    for (let at = shortestHalf; at <= word.length - shortestHalf; at++) {
      const [left, right] = [word.slice(0, at), word.slice(at)]
      if (this.words.has(left)) keep([left, right], twoNames, right.length >= shortestSlip)
      else if (this.words.has(right)) keep([left, right], twoNames, left.length >= shortestSlip)
    }
  }

  /** Adds every entry all of whose words match to those found, and keeps how well it does where that is the best so far. */
  private match(words: readonly string[], nearly: boolean, factor: number, found: number[]): void {
    const { sum, best, round, why, entries, total, reason } = this
    let candidates: number[] = []
    for (const [number, word] of words.entries()) {
      const touched: number[] = []
      for (const [{ postings }, { likeness, how }] of this.wordsLike(word, nearly)) {
        const exact = isPlain(how) && likeness >= beginning
        for (const posting of postings) {
          const entry = posting >> fieldBits
          if (round[entry] !== number) continue
          const field = posting & (1 << fieldBits) - 1
          if (!exact && isExact[field] === 1) continue
          const worth = likeness * (how === isForm && isName[field] === 1 ? formOfName : 1) * weights[field]!
          if (worth <= best[entry]!) continue
          if (best[entry] === 0) {
            if (entries[entry] === null) continue
            touched.push(entry)
          }
          best[entry] = worth
          // The word that matched worst is what has to be explained.
          if (number === 0 || worth < sum[entry]! / number) why[entry] = how << fieldBits | field
        }
      }
      for (const entry of candidates) if (best[entry] === 0) round[entry] = 0
      for (const entry of touched) {
        sum[entry] = (number === 0 ? 0 : sum[entry]!) + best[entry]!
        best[entry] = 0
        round[entry] = number + 1
      }
      candidates = touched
      if (candidates.length === 0) return
    }
    for (const entry of candidates) {
      round[entry] = 0
      const score = sum[entry]! / words.length * factor
      if (total[entry] === 0) found.push(entry)
      if (score <= total[entry]!) continue
      total[entry] = score
      reason[entry] = why[entry]!
    }
  }

  private wordsLike(typed: string, nearly: boolean): Likes {
    const key = nearly ? `~${typed}` : typed
    const known = this.remembered.get(key)
    if (known) return known
    const likes = nearly ? this.nearly(typed) : this.plainly(typed)
    if (this.remembered.size >= mostRemembered) this.remembered.clear()
    this.remembered.set(key, likes)
    return likes
  }

  /** Words that begin like this, in whatever form. */
  private plainly(typed: string): Likes {
    const likes: Likes = new Map()
    const begins = (text: string, factor: number, how: number) => this.prepare().forEach(({ written, digits }) => {
      const list = isDigit(text) ? digits : written.words
      for (let at = lowerBound(list, text); at < list.length && list[at]!.startsWith(text); at++) {
        const word = this.words.get(list[at]!)!
        const likeness = factor * (word.text === text ? 1 : beginning + ofLength * text.length / word.text.length)
        if (likeness > (likes.get(word)?.likeness ?? 0)) likes.set(word, { likeness, how })
      }
    })
    begins(typed, 1, 0)
    const form = stem(typed)
    if (form !== typed && form.length >= shortestInside) begins(form, otherForm, isForm)
    return likes
  }

  /** Those, and words that hold it inside, are spelled nearly so, or sound like it. */
  private nearly(typed: string): Likes {
    const near: Likes = new Map()
    const put = (word: Word, likeness: number, how: number) => {
      if (likeness > (near.get(word)?.likeness ?? 0)) near.set(word, { likeness, how })
    }
    const sound = soundOf(typed)
    for (const { written, sounds, ofSound } of this.prepare()) {
      if (typed.length >= shortestInside && !isDigit(typed)) {
        const worth = inside + perLetterInside * Math.min(8, typed.length)
        for (const text of written.holding(typed)) put(this.words.get(text)!, worth + ofLength * typed.length / text.length, 0)
      }
      if (typed.length >= shortestSlip) {
        const slips = typed.length <= 5 ? 1 : 2
        for (const { at, cost, length } of written.find(typed, slips * 100, bySlip)) {
          const word = this.words.get(written.words[at]!)!
          if (word.spoken && cost > 0) put(word, slip[cost / 100 - 1]! - ofRest * (1 - length / word.text.length), 2)
        }
      }
      if (typed.length >= shortestSound && sound.length > 2) {
        const most = Math.min(mostHeard, allowance + perSound * sound.length)
        for (const { at, cost, length } of sounds.find(sound, most, bySound)) {
          const likeness = heard - perCost * cost - ofRest * (1 - length / sounds.words[at]!.length)
          for (const word of ofSound[at]!) put(word, likeness, 1)
        }
      }
    }
    const likes: Likes = new Map(this.plainly(typed))
    for (const [word, like] of [...near].sort(([, a], [, b]) => b.likeness - a.likeness).slice(0, mostNear))
      if (like.likeness > (likes.get(word)?.likeness ?? 0)) likes.set(word, like)
    return likes
  }

  /** Entries with a number in which the digits typed stand, however they are divided; at least three of them. Its end is what people say. */
  private byNumber(typed: string): { entry: number, score: number }[] {
    const digits = typed.replace(/\(\s*0\s*\)/, '').replace(/\D/g, '').replace(/^0+/, '')
    if (digits.length < shortestNumber) return []
    const scoreOf = (whole: string) => digits.length > shortestNumber && whole.endsWith(digits) ? atItsEnd : within
    return [...this.numbers].flatMap(([entry, wholes]) => wholes.filter(whole => whole.includes(digits)).map(whole => ({ entry, score: scoreOf(whole) })))
  }

  /** The first `limit` of those found, in order. Most of what one letter finds is never put in order. */
  private ranked(found: readonly number[], limit: number, prefers: (id: string) => number): number[] {
    const { total, order, entries } = this
    const first: number[] = []
    const nameOf = (entry: number) => {
      const { first: given, last, id } = entries[entry]!
      return order[entry] ??= fold(`${last} ${given} ${id}`)
    }
    const preferred = new Map<number, number>()
    const preference = (entry: number) => {
      const known = preferred.get(entry)
      if (known !== undefined) return known
      const value = prefers(entries[entry]!.id)
      preferred.set(entry, value)
      return value
    }
    const before = (a: number, b: number) => {
      if (Math.abs(total[a]! - total[b]!) > sameScore) return total[a]! > total[b]!
      const [mine, other] = [preference(a), preference(b)]
      return mine === other ? nameOf(a) < nameOf(b) : mine > other
    }
    let worst = -1
    for (const entry of found) {
      if (total[entry]! < worst || (first.length === limit && !before(entry, first[limit - 1]!))) continue
      let low = 0
      let high = first.length
      while (low < high) {
        const middle = (low + high) >> 1
        if (before(entry, first[middle]!)) high = middle
        else low = middle + 1
      }
      first.splice(low, 0, entry)
      if (first.length > limit) first.pop()
      if (first.length === limit) worst = total[first[limit - 1]!]! - sameScore
    }
    return first
  }
}

/** How people are spoken of, and words that say nothing of whom. */
const titles = new Set(('mr mrs ms miss mx dr prof professor captain capt sir madam madame monsieur lady lord herr frau hr fr mevrouw meneer senor senora'
  + ' the a an of in at to for from please and der die das le la les el de').split(' '))

/** The words without titles and little ones; the same words where nothing else is left, or none is there. */
function withoutTitles(words: readonly string[]): readonly string[] {
  const left = words.filter(word => !titles.has(word))
  return left.length === 0 || left.length === words.length ? words : left
}

/** "room m103": the room that is meant. */
function placeOf([kind, ...rest]: readonly string[]): { field: 'room', words: string[] } | null {
  return kind !== undefined && /^(room|rm|raum|zimmer)$/.test(kind) && rest.some(word => /\d/.test(word)) ? { field: 'room', words: rest } : null
}

/** "lb" for Linnea Berg; of double names also those of each part, and all of them: "ab", "alb", "abh" and "albh" for Anna-Lena Berg-Holm. */
function initialsOf({ first, last }: DirectoryEntry): string[] {
  const of = (text: string) => wordsOf(fold(text)).map(word => word[0]!)
  const [given, family] = [of(first), of(last)]
  const parts = (letters: string[]) => [letters[0] ?? '', ...letters.length > 1 ? [letters.at(-1)!, letters.join('')] : []]
  return [...new Set(parts(given).flatMap(one => parts(family).map(other => one + other)))]
}

/** The same department or topic stands with many: what it is found by is made once. */
const known = new Map<string, [text: string, as: string][]>()
const mostKnown = 20_000
const simple = /^[a-z0-9]+$/i

/** What an entry is found by for a text that stands in a field: each word as written, without marks, and of common words the plain form. */
function formsOf(shown: string, field: Field): [text: string, as: string][] {
  const common = field === 'group' || field === 'department' || field === 'role' || field === 'handles' || field === 'topics'
  const key = common ? `=${shown}` : shown
  const made = known.get(key)
  if (made) return made
  if (simple.test(shown)) {
    const text = shown.toLowerCase()
    return common ? [[text, shown], ...stem(text) === text ? [] : [[stem(text), shown] as [string, string]]] : [[text, shown]]
  }
  const forms = wordsOf(shown).flatMap(word =>
    [...new Set([fold(word), unmarked(word), ...common ? [stem(fold(word))] : []])].map((text): [string, string] => [text, word]))
  if (known.size >= mostKnown) known.clear()
  known.set(key, forms)
  return forms
}

/** Why somebody is among the answers, when it is not plain from what is shown. */
function reasonOf(entry: DirectoryEntry, why: number, words: readonly string[]): Phrase | null {
  const { name } = fields[why & (1 << fieldBits) - 1]!
  const how = ways[why >> fieldBits]!
  switch (name) {
    case 'nickname': return phrase('field.calledNickname', { name: entry.nickname! })
    case 'former': return phrase('field.wasFormer', { name: entry.former! })
    case 'occupant': return phrase('field.isThereNow', { name: spokenOf(entry.occupants ?? [], words) })
    case 'handles': case 'topics': return phrase('field.handlesTopic', { topic: spokenOf(entry.handles, words) })
    case 'name': return how === 'heard' ? phrase('field.soundsLikeIt') : null
    default: return null
  }
}

/** Which of several topics or names the typed words are about. */
function spokenOf(several: readonly string[], words: readonly string[]): string {
  const about = (one: string) => wordsOf(fold(one)).some(word => words.some(typed => word.startsWith(typed) || stem(word) === stem(typed)))
  return several.find(about) ?? several[0] ?? ''
}

function lowerBound(words: readonly string[], text: string): number {
  let low = 0
  let high = words.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (words[middle]! < text) low = middle + 1
    else high = middle
  }
  return low
}
