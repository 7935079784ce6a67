import { beforeEach, describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import type { CallId, Request } from './model'
import { mailboxOf } from './names'
import { deadlineOf, dueTimers, isDue, keyOf, lastMailbox, nextDeadline, nightOf, overflowOf, type TimerName, timersOf } from './timers'
import { Tryout } from './tryout'

/** When what waits has waited long enough: each time to the millisecond, by the rule that it has in the company. */

const [ines, tomas, marit, dunstan] = ['t2100', 't2101', 't2105', 't2106']
const second = 1_000
/** Each time is another one: none can be taken for another's. */
const times = {
  ringCycle: 4_000, transferRecall: 21_000, noAnswer: 31_000, queueRecall: 61_000, parkRecall: 91_000, failedTone: 5_500, absence: 33_000, holdRecall: 181_000,
  holdLimit: 901_000, overflow: 182_000, outsideWatch: 301_000, outsideLongest: 7_201_000, longestMessage: 121_000, pageSilence: 16_000, pageWait: 62_000,
  callBackWithin: 7_300_000, callBackAgain: 903_000,
}
let desk: Tryout
beforeEach(() => {
  const company = merrowby(40)
  desk = new Tryout({ ...company, settings: { ...company.settings, ...times } })
})

/** How long after now each timer of a call is due. */
function due(call: CallId): Partial<Record<TimerName, number>> {
  return Object.fromEntries(timersOf(desk.state, desk.call(call)).map(({ name, at }) => [name, at - desk.now]))
}
const own = (device: string, number: string) => desk.begins(() => desk.must({ service: 'makeCall', device, number }))
const to = (call: CallId, destination: string, device = ines) => desk.must({ service: 'singleStepTransferCall', device, call, to: destination })

describe('a call is due', () => {
  it('when nobody answers it: rung by a colleague, passed on, or sent on after so many rings', () => {
    expect(due(own(dunstan, '2105'))).toEqual({ ring: times.noAnswer })
    const call = desk.inHand(ines)
    to(call, '2107')
    expect(due(call)).toEqual({ ring: times.transferRecall })
    desk.must({ service: 'setForwarding', device: 't2108', when: 'noAnswer', to: '2109', rings: 3, until: null } as Request)
    expect(due(own(tomas, '2108'))).toEqual({ ring: 3 * times.ringCycle })
    desk.must({ service: 'setForwarding', device: 't2111', when: 'noAnswer', to: '2109', rings: 9, until: null } as Request)
    const patient = own('t2110', '2111')
    expect(due(patient), 'rings that last longer than anybody waits are no rule').toEqual({ ring: times.noAnswer })
  })

  it('from the moment it was passed on, and from the moment it rings, whichever is later', () => {
    const call = desk.inHand(ines)
    const consultation = desk.consult(ines, call, '2105')
    desk.wait(8 * second)
    desk.must({ service: 'transferCall', device: ines, call, consultation })
    expect(due(call)).toEqual({ ring: times.transferRecall })
  })

  it('at the first of several telephones that give up', () => {
    desk.change('groups', 'group:freight', { members: ['t2107', 't2108'], distribution: 'all' })
    const call = desk.inHand(ines)
    to(call, 'group:freight')
    desk.wait(5 * second)
    expect(due(call)).toEqual({ ring: times.transferRecall - 5 * second })
  })

  it('never while it rings at an emergency number', () => {
    expect(due(own(marit, '999'))).toEqual({})
  })

  it('when it has waited for the operators as long as its line says, and elsewhere as its queue says', () => {
    const call = desk.offer()
    expect(due(call)).toEqual({ overflow: desk.state.company.lines.general!.overflow.after })
    desk.must({ service: 'answerCall', device: ines, call })
    desk.change('groups', 'queue:reservations', { ringing: 'none', overflow: { after: 77_000, to: 'operators' }, tellEvery: 19_000 })
    to(call, 'queue:reservations')
    expect(due(call)).toEqual({ overflow: 77_000, queue: times.queueRecall, tell: 19_000 })
    const direct = own(marit, '0')
    expect(due(direct), 'a call without a line').toEqual({ overflow: times.overflow })
  })

  it('when its caller has heard their place the next time', () => {
    desk.change('groups', 'queue:reservations', { ringing: 'none', tellEvery: 19_000 })
    const call = desk.inHand(ines)
    to(call, 'queue:reservations')
    desk.wait(19_000)
    expect(due(call).tell).toBe(19_000)
  })

  it('when a member of its queue lets it ring', () => {
    desk.change('groups', 'queue:reservations', { ringing: 'longestFree', ringTime: 13_000 })
    const call = desk.inHand(ines)
    to(call, 'queue:reservations')
    expect(due(call).offer).toBe(13_000)
  })

  it('when somebody who is asked to join does not', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepConferenceCall', device: ines, call, to: '2105' })
    expect(due(call)).toEqual({ invite: times.transferRecall })
  })

  it('when nobody comes to its slot', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'parkCall', device: ines, call, slot: null, for: null })
    expect(due(call)).toEqual({ park: times.parkRecall })
  })

  it('on hold: soon with a colleague, later where an operator sees it or somebody is asked about it', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'holdCall', device: ines, call })
    expect(due(call)).toEqual({ hold: times.holdLimit })
    desk.must({ service: 'retrieveCall', device: ines, call })
    to(call, '2105')
    desk.must({ service: 'answerCall', device: marit, call })
    desk.must({ service: 'holdCall', device: marit, call })
    expect(due(call)).toEqual({ hold: times.holdRecall })
    desk.must({ service: 'retrieveCall', device: marit, call })
    desk.consult(marit, call, '2106')
    expect(due(call)).toEqual({ hold: times.holdLimit })
  })

  it('when the tone, or the room of a mailbox, is over', () => {
    desk.must({ service: 'setDoNotDisturb', device: 't2109', on: true })
    expect(due(own(marit, '2109'))).toEqual({ tone: times.failedTone })
    const call = desk.inHand(ines)
    to(call, mailboxOf(marit))
    expect(due(call)).toEqual({ message: times.longestMessage })
  })

  it('of two outside: until nobody need watch them, and until they are parted', () => {
    const call = desk.inHand(ines)
    const consultation = desk.consult(ines, call, '07700 900321')
    const outside = desk.call(consultation).connections.find(({ party }) => party)!.device
    desk.must({ service: 'answerCall', device: outside, call: consultation })
    desk.wait(40 * second)
    desk.must({ service: 'transferCall', device: ines, call, consultation })
    expect(due(call)).toEqual({ watch: times.outsideWatch, longest: times.outsideLongest - 40 * second })
  })

  it('where nobody has lifted, after two minutes', () => {
    const call = desk.begins(() => desk.must({ service: 'intercomCall', device: ines, number: '2105' }))
    expect(due(call)).toEqual({ longest: 120_000 })
  })
})

describe('what is due beside calls', () => {
  const next = () => nextDeadline(desk.state)! - desk.now
  /** What the demo's own hours and times have to say is no matter. */
  const others = () => Object.values(desk.state.company.lines)

  beforeEach(() => {
    for (const line of others()) desk.change('lines', line.id, { hours: null })
    for (const group of Object.values(desk.state.company.groups)) if (group.hours !== null) desk.change('groups', group.id, { hours: null })
  })

  it('is nothing when nothing is', () => {
    expect(nextDeadline(desk.state)).toBeNull()
  })

  it.each<[string, Request, number]>([
    ['a page whose speaker says nothing', { service: 'openPage', device: ines, to: 'zone:hall', rank: 'ordinary' }, times.pageSilence],
    ['an operator who has gone', { service: 'setAgentState', device: ines, attended: false }, times.absence],
  ])('%s', (_, request, after) => {
    desk.must(request)
    expect(next()).toBe(after)
  })

  it('what people have said until when, by their clock', () => {
    desk.must({ service: 'adjustClock', offset: 3_600_000 })
    const until = desk.now + 3_600_000 + 50_000
    for (const request of [
      { service: 'setStatus', device: marit, reason: 'lunch', until }, { service: 'setDoNotDisturb', device: dunstan, on: true, until },
      { service: 'setForwarding', device: 't2107', when: 'always', to: '2108', until },
      { service: 'setLineServed', device: ines, line: 'general', on: false, until },
    ] as Request[]) {
      desk.must(request)
      expect(next(), request.service).toBe(50_000)
      desk.must({ service: 'tick' })
    }
  })

  it('a question to take a line, after two minutes', () => {
    desk.must({ service: 'offerLine', device: ines, line: 'general', to: tomas })
    expect(next()).toBe(120_000)
  })

  it('a page that waits for its loudspeakers, and one whose speaker has not said a word for two minutes', () => {
    desk.must({ service: 'openPage', device: ines, to: 'zone:hall', rank: 'ordinary' })
    desk.must({ service: 'openPage', device: tomas, to: 'zone:hall', rank: 'ordinary' })
    const [speaks] = desk.state.pages.values()
    for (let said = 0; said < 4; said++) {
      desk.wait(10_000)
      desk.must({ service: 'speakOnPage', device: ines, page: speaks!.id })
    }
    expect(next()).toBe(times.pageSilence)
    desk.wait(15_000)
    desk.must({ service: 'speakOnPage', device: ines, page: speaks!.id, text: 'the boat is late' })
    expect(desk.state.pages.get(speaks!.id)).toBeDefined()
    expect(next(), 'the other waits no longer than it may').toBe(times.pageWait - 55_000)
  })

  it('a promise that is older than it may be', () => {
    desk.must({ service: 'promiseCallBack', device: ines, number: '07700 900777' })
    expect(next()).toBe(times.callBackWithin)
  })

  it('comes in its order, and runs until it is done', () => {
    desk.must({ service: 'openPage', device: ines, to: 'zone:hall', rank: 'ordinary' })
    desk.must({ service: 'setAgentState', device: tomas, attended: false })
    expect(dueTimers(desk.state, desk.now + times.pageSilence - 1)).toEqual([])
    const both = dueTimers(desk.state, desk.now + times.absence)
    expect(both.map(({ name }) => name)).toEqual(['page', 'absence'])
    expect(isDue(desk.state, both[0]!, desk.now + times.pageSilence - 1)).toBe(false)
    expect(isDue(desk.state, both[0]!, desk.now + times.pageSilence)).toBe(true)
    desk.wait(times.pageSilence)
    expect(isDue(desk.state, both[0]!, desk.now), 'it has been done').toBe(false)
  })

  it('is sorted by its time, whatever its owner is called', () => {
    const key = (at: number, owner: string) => keyOf({ at, owner, name: 'ring' })
    expect(key(9, 'z') < key(10, 'a') && key(99_999_999_999, 'z') < key(100_000_000_000, 'a')).toBe(true)
    expect(key(0.2, 'a')).toBe(key(1, 'a'))
    expect(key(-5, 'a')).toBe(key(0, 'a'))
    expect(keyOf({ at: 1, owner: 'a', name: 'line', line: 'x' })).not.toBe(keyOf({ at: 1, owner: 'a', name: 'line', line: 'y' }))
  })
})

describe('where a call goes that has waited too long', () => {
  it('is what its line says of the operators\' queue, and what another queue says of itself', () => {
    const call = desk.call(desk.offer())
    expect(overflowOf(desk.state, call, 'operators')).toEqual(desk.state.company.lines.general!.overflow)
    expect(overflowOf(desk.state, call, 'queue:freight')).toEqual(desk.state.company.groups['queue:freight']!.overflow)
    expect(overflowOf(desk.state, { ...call, line: null }, 'operators').after).toBe(times.overflow)
    expect(overflowOf(desk.state, call, 'queue:gone'), 'at once to the operators').toEqual({ after: 0, to: 'operators' })
  })

  it('is the mailbox of the line, of whoever was called, or of the first line there is', () => {
    const call = desk.call(desk.offer())
    expect(nightOf(desk.state, { ...call, line: 'freight' })).toBe(desk.state.company.lines.freight!.night)
    expect(lastMailbox(desk.state, { ...call, line: 'freight' })).toBe(mailboxOf('freight'))
    const inside = desk.call(own(dunstan, '2105'))
    expect([nightOf(desk.state, inside), lastMailbox(desk.state, inside)]).toEqual([mailboxOf(marit), mailboxOf(marit)])
    expect(lastMailbox(desk.state, { ...call, line: null, story: [] })).toBe(mailboxOf('general'))
  })

  it('comes back when nobody answers, or comes to the slot; who talks does not', () => {
    const call = desk.inHand(ines)
    expect(deadlineOf(desk.state, desk.call(call))).toBeNull()
    to(call, '2105')
    expect(deadlineOf(desk.state, desk.call(call))).toBe(desk.now + times.transferRecall)
    desk.must({ service: 'answerCall', device: marit, call })
    expect(deadlineOf(desk.state, desk.call(call))).toBeNull()
  })
})
