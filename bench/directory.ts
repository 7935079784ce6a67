import { english } from '../words/english'
import { firstNames, lastNames } from '../demo/company/names'
import { heardPeople } from '../core/directory/recall/people'
import Fuse from 'fuse.js'
import MiniSearch from 'minisearch'
import { entriesOf } from '../core/directory/entries'
import { queries } from '../core/directory/recall/queries'
import { Directory, type DirectoryEntry } from '../core/directory/search'
import { merrowby } from '../demo/company/merrowby'

/** What a search over very many costs. */

const beginnings = 'Bram Quill Thorn Wend Ash Kes Mor Pel Sand Tarn Ull Yar Grim Hal Inker Jess Lan Nor Oar Rush'.split(' ')
const middles = ['', 'a', 'el', 'en', 'er', 'in', 'ing', 'is', 'on', 'ow', 'ur', 'y', 'ala', 'eno', 'iri', 'osta', 'umbe', 'wy']
const endings = 'by combe dale feather field gate ham holm ington ley marsh moor rick shaw stead thorpe ton wick wood worth yard'.split(' ')
const parts = beginnings.flatMap(one => middles.flatMap(two => endings.map(three => `${one}${two}${three}`)))

/** As many entries as asked for, with about 8,000 different names of many kinds. */
export function manyEntries(size: number): DirectoryEntry[] {
  const names = [...parts, ...lastNames, ...heardPeople.map(({ last }) => last)]
  const first = [...firstNames, ...heardPeople.map(one => one.first)]
  const departments = Array.from({ length: 60 }, (_, index) => `${names[index * 7]} office`)
  return Array.from({ length: size }, (_, index): DirectoryEntry => ({
    id: `t${index}`, telephones: [`t${index}`], extension: String(10_000 + index),
    first: first[index % first.length]!, last: names[(index * 31) % names.length]!, nickname: null,
    former: index % 40 === 0 ? names[(index * 17) % names.length]! : null, department: `d${index % 60}`, departmentName: departments[index % 60]!,
    site: '', role: ['Clerk', 'Planner', 'Fitter', 'Foreman'][index % 4]!, room: `K${index % 900}`, handles: ['lost luggage', 'damaged lorries'],
    mobile: index % 3 === 0 ? `+4477009${String(index).padStart(5, '0')}` : null, direct: null,
  }))
}

/** What is typed, letter by letter. */
function keystrokes(entries: readonly DirectoryEntry[]): string[] {
  const whole = [
    ...entries.filter((_, at) => at % Math.ceil(entries.length / 60) === 0).flatMap(({ first, last }) => [last, `${last} ${first.slice(0, 3)}`]),
    ...heardPeople.flatMap(({ misheard }) => misheard.slice(0, 1)),
  ]
  return whole.flatMap(text => Array.from({ length: text.length }, (_, length) => text.slice(0, length + 1)))
}

/** How long it takes to make a directory, to answer a keystroke, and to take one change in and answer from it. */
export function searching(size: number) {
  const entries = manyEntries(size)
  const begin = process.hrtime.bigint()
  const directory = new Directory(entries)
  const buildMs = Number(process.hrtime.bigint() - begin) / 1e6
  const typed = keystrokes(entries)
  const timed = (act: () => void) => {
    const start = process.hrtime.bigint()
    act()
    return Number(process.hrtime.bigint() - start) / 1e6
  }
  const times = typed.map(text => timed(() => directory.search(text, 24))).sort((a, b) => a - b)
  const changes = Array.from({ length: 200 }, (_, index) => timed(() => {
    directory.put({ ...entries[index * 7 % size]!, first: 'Renamed', last: entries[index % size]!.last })
    directory.search('renamed', 24)
  })).sort((a, b) => a - b)
  const at = (part: number) => Number(times[Math.min(times.length - 1, Math.floor(times.length * part))]!.toFixed(2))
  return {
    entries: size, buildMs: Math.round(buildMs), keystrokes: typed.length, medianMs: at(0.5), p95Ms: at(0.95), worstMs: at(1),
    changeMs: Number(changes[100]!.toFixed(2)),
  }
}

/** The same queries asked of our search and of two general ones, with the settings that their makers advise for names: how often the right one is there. */
export function besideOthers() {
  const entries: DirectoryEntry[] = [
    ...entriesOf(english, merrowby(600)),
    ...heardPeople.map(({ misheard: _heard, ...one }) => ({ ...one, id: one.extension, telephones: [one.extension], site: '', direct: null })),
  ]
  const fields = ['first', 'last', 'nickname', 'former', 'departmentName', 'role', 'room', 'handles', 'extension', 'mobile']
  const flat = entries.map(entry => ({ ...entry, handles: entry.handles.join(' ') }))
  const own = new Directory(entries)
  const words = new MiniSearch({ fields, idField: 'id' })
  words.addAll(flat)
  const fuzzy = new Fuse(flat, { keys: fields, threshold: 0.4, ignoreLocation: true })
  const ways: [name: string, search: (typed: string) => string[]][] = [
    ['ours', typed => own.search(typed, 24).map(({ id }) => id)],
    ['minisearch', typed => words.search(typed, { prefix: true, fuzzy: 0.3, combineWith: 'AND' }).slice(0, 24).map(({ id }) => String(id))],
    ['fuse.js', typed => fuzzy.search(typed, { limit: 24 }).map(({ item }) => item.id)],
  ]
  return ways.map(([name, search]) => {
    const begin = process.hrtime.bigint()
    const places = queries.map(({ typed, right, kind }) => ({ kind, place: search(typed).findIndex(id => right.includes(id)) }))
    const perQueryMs = Number((Number(process.hrtime.bigint() - begin) / 1e6 / queries.length).toFixed(2))
    const share = (of: typeof places, most: number) => Number((of.filter(({ place }) => place >= 0 && place < most).length / of.length).toFixed(3))
    const misheard = places.filter(({ kind }) => kind === 'misheard')
    return { search: name, entries: entries.length, first: share(places, 1), firstFive: share(places, 5), misheardFirstFive: share(misheard, 5), perQueryMs }
  })
}
