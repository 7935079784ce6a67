import { english } from '../words/english'
import { spoken } from '../words/phrase'
import { deviceName } from '../core/calls/names'
import { Tryout } from '../core/calls/tryout'
import { snapshotOf } from '../core/calls/snapshot'
import { entriesOf } from '../core/directory/entries'
import { Directory } from '../core/directory/search'
import type { Console } from '../core/console/console'
import { trackOf } from '../core/console/track'
import type { SpeedKey } from '../core/speed-keys/key'
import { meaningOf } from '../core/speed-keys/meaning'
import { merrowby } from '../demo/company/merrowby'
import { quiet } from './cost'
import { foretelling } from './routing'

export { costs, rate } from './cost'
export { besideOthers, searching } from './directory'

/** Bytes of a snapshot with and without the company's configuration. */
export function snapshotSize(size: number): { telephones: number, wholeKb: number, withoutCompanyKb: number } {
  const snapshot = snapshotOf(quiet(size))
  const { company: _known, ...rest } = snapshot
  return { telephones: size, wholeKb: Math.round(JSON.stringify(snapshot).length / 1024), withoutCompanyKb: Math.round(JSON.stringify(rest).length / 1024) }
}

/** How often the end of a call is foretold first, and among three, in made-up months of the demo company. */
export function foretold() {
  return [1, 2, 3].flatMap((seed) => {
    const { calls, ...guesses } = foretelling(merrowby(), seed)
    return Object.entries(guesses).map(([by, share]) => ({ seed, calls, by, ...share }))
  })
}

/** How long it takes to say what every key of 20 pages of 40 does, and of one page, with 19 calls under way. */
export function speedKeys(): { keys: number, everyKeyMs: number, onePageMs: number } {
  const desk = new Tryout(merrowby())
  for (let index = 0; index < 18; index++) desk.offer()
  desk.inHand('t2100')
  const { state, now } = desk
  const people = Object.keys(state.company.people)
  const groups = Object.keys(state.company.groups)
  const keys = Array.from({ length: 800 }, (_, index): SpeedKey => index % 8 === 7
    ? { kind: 'group', of: groups[index % groups.length]!, label: null }
    : { kind: 'person', of: people[index % people.length]!, label: null })
  const console: Console = {
    state, device: 't2100', track: trackOf(state, 't2100', { next: null, carried: null }, now), note: '', account: '', wall: now, t: english,
    nameOf: (device, party) => party?.name ?? spoken(english, deviceName(state.company, device) ?? ''),
  }
  const times = Array.from({ length: 30 }, () => {
    const begin = process.hrtime.bigint()
    for (const key of keys) meaningOf(console, key, false)
    return Number(process.hrtime.bigint() - begin) / 1e6
  }).sort((a, b) => a - b)
  const median = times[15]!
  return { keys: keys.length, everyKeyMs: Number(median.toFixed(2)), onePageMs: Number((median / 20).toFixed(3)) }
}

export function keystroke(size: number): { size: number, medianMs: number, p95Ms: number, worstMs: number } {
  const entries = entriesOf(english, merrowby(size))
  const index = new Directory(entries)
  const typed = entries.filter((_, at) => at % 37 === 0).flatMap(({ first, last, departmentName }) => [last, `${first} ${last}`, departmentName, 'lugage'])
    .flatMap(text => Array.from({ length: text.length }, (_, length) => text.slice(0, length + 1)))
  const times = typed.map((text) => {
    const begin = process.hrtime.bigint()
    index.search(text, 24)
    return Number(process.hrtime.bigint() - begin) / 1e6
  }).sort((a, b) => a - b)
  const at = (part: number) => Number(times[Math.min(times.length - 1, Math.floor(times.length * part))]!.toFixed(3))
  return { size, medianMs: at(0.5), p95Ms: at(0.95), worstMs: at(1) }
}
