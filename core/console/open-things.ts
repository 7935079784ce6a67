import { phrase, type Phrase, type Spoken } from '../../words/phrase'
import { clockOfMinute, localTime } from '../calendar/zones'
import type { DeviceId, ExchangeState, Party } from '../calls/model'
import { deviceName, trunkName } from '../calls/names'
import type { Company } from '../company/company'
import { lookUp, withNumber } from '../company/lookups'
import { formatNumber, readDialled } from '../numbers/dialled'
import { whyPaused } from '../queues/offers'
import { openPromises } from './call-backs'
import { whoWaits } from './watch'

/** What is open when a shift is handed over: whoever comes must know it, and whoever goes must not have to remember it. */

export const openKinds = ['onHold', 'parked', 'waiting', 'callBack', 'opening', 'trunk', 'line', 'telephone', 'queue'] as const

/** One thing that is open, in words as they stand at that moment. `since`: a time that people read, in milliseconds. */
export interface OpenThing {
  kind: typeof openKinds[number]
  who: Spoken
  words: Spoken
  since: number
}

type NameOf = (device: DeviceId, party?: Party | null) => Spoken

/** Names as the company and the network have them, for whoever has no names of their own. A number outside is written as people do. */
export function namesIn(company: Company): NameOf {
  return (device, party) => {
    if (party) return party.name ?? (party.number ? formatNumber(party.number, company.settings) : phrase('common.numberWithheld'))
    const dialled = readDialled(device, company.settings)
    const ours = dialled.kind === 'inside' ? withNumber(company, dialled.digits) : undefined
    return dialled.kind === 'outside'
      ? formatNumber(dialled.e164, company.settings)
      : ours?.name ?? deviceName(company, device)
        ?? phrase('track.outsideCaller')
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
    const late = used > 1 ? phrase('openThings.longerThanPromised') : ''
    if (how === 'onHold') return [{ ...thing, kind: 'onHold', words: phrase('openThings.onHoldWith', { name: nameOf(at), late }) }]
    const kept = call.parked?.for ? phrase('openThings.keptFor', { name: nameOf(call.parked.for) }) : ''
    if (how === 'parked') return [{ ...thing, kind: 'parked', words: phrase('openThings.inSlot', { name: nameOf(at), kept, late }) }]
    const words = phrase(how === 'rings' ? 'openThings.ringsAt' : 'openThings.waitsFor', { name: nameOf(at), late })
    return used > 1 ? [{ ...thing, kind: 'waiting', words }] : []
  })
}

function promised(state: ExchangeState, nameOf: NameOf, clock: (at: number) => string): OpenThing[] {
  return openPromises(state).map(({ party, queue, assigned, tries, notBefore, promisedAt }) => ({
    kind: 'callBack', who: nameOf('', party), since: promisedAt + state.clockOffset,
    words: phrase('openThings.toBeCalledBackBy', {
      by: assigned ? nameOf(assigned) : phrase('openThings.theQueue', { name: nameOf(queue) }),
      tried: tries > 0 ? phrase('openThings.tried', { count: tries }) : '',
      again: notBefore !== null ? phrase('openThings.againAt', { at: clock(notBefore + state.clockOffset) }) : '',
    }),
  }))
}

/** What somebody has set by hand and has to be set back, or looked after. */
function oddStates(state: ExchangeState, nameOf: NameOf, clock: (at: number) => string): OpenThing[] {
  const { lines, groups } = state.company
  const wall = (at: number) => at + state.clockOffset
  const until = (at: number | null) => at === null ? phrase('openThings.untilFurtherNotice') : phrase('openThings.untilAt', { at: clock(at) })
  const things: OpenThing[] = []
  for (const [of, { open, by, until: to, since }] of state.openings) {
    const name = (lookUp(lines, of) ?? lookUp(groups, of))?.name
    const words = phrase(open ? 'openThings.openedBy' : 'openThings.closedBy', { name: by === null ? '' : nameOf(by), until: until(to) })
    if (by !== null && name) things.push({ kind: 'opening', who: name, since: wall(since), words })
  }
  for (const [trunk, { outBy, faulty, since }] of state.troubles) {
    const words = outBy ? phrase('openThings.takenOutOfServiceBy', { name: nameOf(outBy) }) : phrase('openThings.channelsOutOfOrder', { count: faulty })
    things.push({ kind: 'trunk', who: trunkName(state.company, trunk), since: wall(since), words })
  }
  for (const [id, { attended, unserved }] of state.agents) {
    const left = attended ? Object.entries(unserved).flatMap(([line, to]) => lookUp(lines, line) ? [{ name: lines[line]!.name, to }] : []) : []
    const listed = left.map(({ name, to }): Phrase => phrase('openThings.lineUntil', { name, until: until(to) }))
    const [first, ...more] = listed
    if (first) things.push({
      kind: 'line', who: nameOf(id), since: wall(state.time),
      words: phrase('openThings.leavesToTheOthers', { lines: more.reduce((before, next) => phrase('openThings.andThen', { before, next }), first) }),
    })
  }
  for (const [id, { doNotDisturb, doNotDisturbBy, doNotDisturbUntil, forwarding, absences }] of state.devices) {
    if (doNotDisturb && doNotDisturbBy) things.push({
      kind: 'telephone', who: nameOf(id), since: wall(state.time),
      words: phrase('openThings.doNotDisturbSetBy', { name: nameOf(doNotDisturbBy), until: until(doNotDisturbUntil) }),
    })
    for (const forward of Object.values(forwarding ?? {})) {
      if (forward.by) things.push({
        kind: 'telephone', who: nameOf(id), since: wall(forward.since),
        words: phrase('openThings.callsGoTo', { to: nameOf(forward.to), name: nameOf(forward.by), until: until(forward.until) }),
      })
    }
    for (const [queue, { state: its, reason, since, by }] of Object.entries(absences ?? {})) {
      const setBy = by ? phrase('openThings.setBy', { name: nameOf(by) }) : ''
      if (its === 'paused' && by !== id) things.push({
        kind: 'queue', who: nameOf(id), since: wall(since),
        words: phrase('openThings.doesNotServeThe', { queue: nameOf(queue), reason: whyPaused(reason), setBy }),
      })
    }
  }
  return things
}
