import { clockOfMinute, localTime } from '../calendar/zones'
import type { DeviceId, ExchangeState, Party } from '../calls/model'
import { deviceName, trunkName } from '../calls/names'
import type { Company } from '../company/company'
import { lookUp, withNumber } from '../company/lookups'
import { formatNumber, readDialled } from '../numbers/dialled'
import { openPromises } from './call-backs'
import { whoWaits } from './watch'

/** What is open when a shift is handed over: whoever comes must know it, and whoever goes must not have to remember it. */

export const openKinds = ['onHold', 'parked', 'waiting', 'callBack', 'opening', 'trunk', 'line', 'telephone', 'queue'] as const

/** One thing that is open, in words as they stand at that moment. `since`: a time that people read, in milliseconds. */
export interface OpenThing {
  kind: typeof openKinds[number]
  who: string
  words: string
  since: number
}

type NameOf = (device: DeviceId, party?: Party | null) => string

/** Names as the company and the network have them, for whoever has no names of their own. A number outside is written as people do. */
export function namesIn(company: Company): NameOf {
  return (device, party) => {
    if (party) return party.name ?? (party.number ? formatNumber(party.number, company.settings) : 'Number withheld')
    const dialled = readDialled(device, company.settings)
    const ours = dialled.kind === 'inside' ? withNumber(company, dialled.digits) : undefined
    return dialled.kind === 'outside' ? formatNumber(dialled.e164, company.settings) : ours?.name ?? deviceName(company, device) ?? 'Outside caller'
  }
}

/** Writes a time that people read by the clock of the house: "14:05". */
export function clockOf({ settings: { zone } }: Company): (at: number) => string {
  return at => clockOfMinute(Math.floor(localTime(zone, at) / 60_000) % (24 * 60))
}

/**
 * Everything that is open, callers first.
 * @param now the exchange's time, in milliseconds
 * @param clock writes a time that people read, in milliseconds
 */
export function openThings(state: ExchangeState, now: number, nameOf: NameOf, clock: (at: number) => string): OpenThing[] {
  return [...callers(state, now, nameOf), ...promised(state, nameOf, clock), ...oddStates(state, nameOf, clock)]
}

/** Whoever is on hold or parked, and who waits longer than was promised. */
function callers(state: ExchangeState, now: number, nameOf: NameOf): OpenThing[] {
  return whoWaits(state, now).flatMap(({ call, at, how, since, used }): OpenThing[] => {
    const thing = { who: nameOf(call.calling, call.party), since: since + state.clockOffset }
    const late = used > 1 ? ', longer than promised' : ''
    if (how === 'onHold') return [{ ...thing, kind: 'onHold', words: `on hold with ${nameOf(at)}${late}` }]
    const kept = call.parked?.for ? `, kept for ${nameOf(call.parked.for)}` : ''
    if (how === 'parked') return [{ ...thing, kind: 'parked', words: `in ${nameOf(at)}${kept}${late}` }]
    return used > 1 ? [{ ...thing, kind: 'waiting', words: `${how === 'rings' ? 'rings at' : 'waits for'} ${nameOf(at)}${late}` }] : []
  })
}

function promised(state: ExchangeState, nameOf: NameOf, clock: (at: number) => string): OpenThing[] {
  return openPromises(state).map(({ party, queue, assigned, tries, notBefore, promisedAt }) => ({
    kind: 'callBack', who: nameOf('', party), since: promisedAt + state.clockOffset,
    words: [
      `to be called back by ${assigned ? nameOf(assigned) : `the ${nameOf(queue)}`}`, tries > 0 && `tried ${tries === 1 ? 'once' : `${tries} times`}`,
      notBefore !== null && `again at ${clock(notBefore + state.clockOffset)}`,
    ].filter(Boolean).join(', '),
  }))
}

/** What somebody has set by hand and has to be set back, or looked after. */
function oddStates(state: ExchangeState, nameOf: NameOf, clock: (at: number) => string): OpenThing[] {
  const { lines, groups } = state.company
  const wall = (at: number) => at + state.clockOffset
  const until = (at: number | null) => at === null ? 'until further notice' : `until ${clock(at)}`
  const things: OpenThing[] = []
  for (const [of, { open, by, until: to, since }] of state.openings) {
    const name = (lookUp(lines, of) ?? lookUp(groups, of))?.name
    if (by !== null && name) things.push({ kind: 'opening', who: name, since: wall(since),
      words: `${open ? 'opened' : 'closed'} by ${nameOf(by)} ${until(to)}` })
  }
  for (const [trunk, { outBy, faulty, since }] of state.troubles) {
    const words = outBy ? `taken out of service by ${nameOf(outBy)}` : `${faulty} channel${faulty === 1 ? '' : 's'} out of order`
    things.push({ kind: 'trunk', who: trunkName(state.company, trunk), since: wall(since), words })
  }
  for (const [id, { attended, unserved }] of state.agents) {
    const left = attended ? Object.entries(unserved).flatMap(([line, to]) => lookUp(lines, line) ? [`${lines[line]!.name} ${until(to)}`] : []) : []
    if (left.length > 0) things.push({ kind: 'line', who: nameOf(id), since: wall(state.time), words: `leaves to the others: ${left.join('; ')}` })
  }
  for (const [id, { doNotDisturb, doNotDisturbBy, doNotDisturbUntil, forwarding, absences }] of state.devices) {
    if (doNotDisturb && doNotDisturbBy) things.push({
      kind: 'telephone', who: nameOf(id), since: wall(state.time), words: `do not disturb, set by ${nameOf(doNotDisturbBy)} ${until(doNotDisturbUntil)}`,
    })
    for (const forward of Object.values(forwarding ?? {})) {
      if (forward.by) things.push({
        kind: 'telephone', who: nameOf(id), since: wall(forward.since),
        words: `calls go to ${nameOf(forward.to)}, set by ${nameOf(forward.by)} ${until(forward.until)}`,
      })
    }
    for (const [queue, { state: its, reason, since, by }] of Object.entries(absences ?? {})) {
      const setBy = by ? `, set by ${nameOf(by)}` : ''
      if (its === 'paused' && by !== id) things.push({
        kind: 'queue', who: nameOf(id), since: wall(since), words: `does not serve the ${nameOf(queue)}: ${reason ?? 'paused'}${setBy}`,
      })
    }
  }
  return things
}
