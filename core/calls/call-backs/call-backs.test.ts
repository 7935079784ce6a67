import { english } from '../../../words/english'
import { spoken } from '../../../words/phrase'
import { describe, expect, it } from 'vitest'
import { merrowby } from '../../../demo/company/merrowby'
import type { Group } from '../../company/company'
import { isPrompt } from './call-backs'
import type { CallBack } from '../model'
import { sentenceOf, Tryout } from '../tryout'
import { inTheirTurn, waitingIn } from '../../queues/turns'

const queue = 'queue:freight'
const members = ['t2105', 't2106']
const second = 1_000
const minute = 60 * second
const caller = { number: '+447700900001', name: 'Ada Fenn' }

/** An exchange on which two colleagues are rung for freight, and who waits may ask to be called back with 1. */
function day(fields: Partial<Group> = {}) {
  const on = new Tryout(merrowby(12))
  on.change('groups', queue, {
    members, voluntary: [], wrapUp: 0, ringing: 'longestFree', ringTime: 15 * second, tries: 3, pauseAfter: 0, skills: {}, tellEvery: 0, callBackDigit: '1',
    ...fields,
  })
  return on
}

/** Everybody of the queue is away, or back again. */
function away(on: Tryout, are: boolean): void {
  for (const device of members) on.must({ service: 'setDoNotDisturb', device, on: are })
}

/** Both members talk, so that who comes waits. */
function engaged(on: Tryout): string[] {
  return members.map(device => on.begins(() => on.must({ service: 'makeCall', device, number: '07700 900999' })))
}

function waits(on: Tryout, number = caller.number, name: string | null = caller.name): string {
  const call = on.offer('+441632960000', { number, name })
  on.must({ service: 'answerCall', device: 't2100', call })
  on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: queue })
  return call
}

const presses = (on: Tryout, call: string, digits = '1') => on.must({ service: 'generateDigits', device: on.call(call).calling, call, digits })
const open = (on: Tryout) => [...on.state.callBacks.values()]
const over = (on: Tryout): CallBack | undefined => on.state.callBacksOver.at(-1)
const prompts = (on: Tryout) => [...on.state.calls.values()].filter(isPrompt)
const ringsAt = (on: Tryout) => prompts(on).map(({ connections }) => connections[0]!.device)

/** A caller waits, asks to be called back, and leaves. */
function promised(on: Tryout) {
  const busy = engaged(on)
  const call = waits(on)
  presses(on, call)
  on.wait(second)
  return { busy, call }
}

const outside = (on: Tryout, call: string) => on.call(call).connections.find(({ party }) => party)!

describe('who waits and asks to be called back', () => {
  it('leaves their place, which is kept: a member is rung when it is their turn, then they are, and it is done when they talk', () => {
    const on = day()
    const { busy, call } = promised(on)
    expect(on.state.calls.has(call), 'they have left').toBe(false)
    expect(open(on)).toMatchObject([{ party: caller, queue, by: null, tries: 0 }])
    const behind = waits(on, '+447700900002')
    on.wait(second)
    on.hangUp(busy[0]!, members[0])
    expect(ringsAt(on), 'before whoever came later').toEqual([members[0]])
    expect(waitingIn(on.state, queue).map(({ id }) => id)).toEqual([behind])
    const [prompt] = prompts(on)
    on.must({ service: 'answerCall', device: members[0]!, call: prompt!.id })
    expect(outside(on, prompt!.id)).toMatchObject({ state: 'alerting', party: { number: caller.number } })
    on.must({ service: 'answerCall', device: outside(on, prompt!.id).device, call: prompt!.id })
    expect(open(on)).toEqual([])
    expect(over(on)).toMatchObject({ end: 'reached', endedBy: members[0], tries: 1, word: null })
  })

  it('stays where they are when the digit is another, the number is withheld, or is one of ours', () => {
    const on = day()
    engaged(on)
    const call = waits(on)
    expect(on.ask({ service: 'generateDigits', device: on.call(call).calling, call, digits: '7' })?.code).toBe('notPossibleNow')
    for (const number of [null, 'unknown', '+441632960010']) {
      const withheld = waits(on, number as never)
      presses(on, withheld)
      expect(spoken(english, on.call(withheld).caption!.text)).toContain('You are still in your place')
    }
    expect(open(on)).toEqual([])
    expect(waitingIn(on.state, queue)).toHaveLength(4)
  })

  it('keeps the earlier place when they ask twice', () => {
    const on = day()
    promised(on)
    const [first] = open(on)
    on.wait(minute)
    presses(on, waits(on))
    expect(open(on)).toEqual([first])
  })
})

describe('a promise to call back', () => {
  it('goes to the next member when one lets it ring or declines, and to the operators after so many', () => {
    const on = day()
    const { busy } = promised(on)
    for (const [index, call] of busy.entries()) on.hangUp(call, members[index])
    const [first] = ringsAt(on)
    on.wait(15 * second)
    const [next] = ringsAt(on)
    expect([first, next].sort()).toEqual(members)
    on.must({ service: 'clearConnection', device: next!, call: prompts(on)[0]!.id })
    on.wait(15 * second)
    expect(prompts(on)).toEqual([])
    expect(open(on)).toMatchObject([{ queue: 'operators', call: null }])
  })

  it('is tried again politely, so many times, and ends with a word to the caller', () => {
    const on = day()
    const { busy } = promised(on)
    on.hangUp(busy[0]!, members[0])
    for (const tried of [1, 2, 3]) {
      const [prompt] = prompts(on)
      on.must({ service: 'answerCall', device: prompt!.connections[0]!.device, call: prompt!.id })
      on.wait(30 * second)
      expect(on.call(prompt!.id).failed?.cause).toBe('noAnswer')
      on.wait(5 * second)
      if (tried === 3) break
      expect(prompts(on), 'not at once').toEqual([])
      on.wait(14 * minute)
      expect(prompts(on)).toEqual([])
      on.wait(minute)
    }
    expect(open(on)).toEqual([])
    expect(over(on)).toMatchObject({ end: 'unreached', tries: 3 })
    expect(spoken(english, over(on)!.word!)).toContain('call you back 3 times')
    expect(spoken(english, over(on)!.word!)).toContain('General line, 01632 960000')
  })

  it('rings nobody while the caller is on the line, and is done when they talk with somebody of the queue', () => {
    const on = day()
    const { busy } = promised(on)
    const again = on.offer('+441632960000', caller)
    on.hangUp(busy[0]!, members[0])
    expect(prompts(on)).toEqual([])
    on.must({ service: 'answerCall', device: 't2100', call: again })
    expect(open(on), 'an operator has them, and may not be the one they wanted').toHaveLength(1)
    on.must({ service: 'singleStepTransferCall', device: 't2100', call: again, to: members[0]! })
    on.must({ service: 'answerCall', device: members[0]!, call: again })
    expect(over(on)).toMatchObject({ end: 'calledAgain', endedBy: members[0] })
  })

  it('gives whoever calls again the place that was kept for them, and turns nobody away for it', () => {
    const on = day({ mostWaiting: 3 })
    const { busy } = promised(on)
    const others = ['+447700900002', '+447700900003'].map(number => waits(on, number))
    const again = waits(on)
    const [promise] = open(on)
    expect(inTheirTurn(on.state, queue).map(({ call, promise }) => call?.id ?? promise?.id)).toEqual([again, promise!.id, ...others])
    on.wait(second)
    const last = waits(on, '+447700900004')
    expect(on.state.calls.get(last)?.connections.some(({ device, state }) => device === queue && state === 'queued'), 'no room for a fourth').toBeFalsy()
    expect(waitingIn(on.state, queue).map(({ id }) => id)).toEqual([again, ...others])
    on.must({ service: 'putInQueue', device: 't2100', call: again, place: 'last' })
    expect(waitingIn(on.state, queue).map(({ id }) => id), 'where they were put by hand').toEqual([...others, again])
    on.must({ service: 'putInQueue', device: 't2100', call: again, place: 'first' })
    on.hangUp(busy[0]!, members[0])
    on.must({ service: 'answerCall', device: members[0]!, call: again })
    expect(over(on)).toMatchObject({ end: 'calledAgain', endedBy: members[0] })
  })

  it('rings no longer at whoever stops serving, when somebody takes it, or when the caller calls', () => {
    const on = day()
    const { busy } = promised(on)
    on.hangUp(busy[0]!, members[0])
    on.must({ service: 'setDoNotDisturb', device: members[0]!, on: true })
    expect(prompts(on)).toEqual([])
    on.must({ service: 'setDoNotDisturb', device: members[0]!, on: false })
    expect(ringsAt(on)).toEqual([members[0]])
    const [promise] = open(on)
    on.must({ service: 'assignCallBack', device: 't2100', callBack: promise!.id, to: 't2100' })
    expect(prompts(on)).toEqual([])
    on.must({ service: 'assignCallBack', device: 't2100', callBack: promise!.id, to: null })
    expect(ringsAt(on)).toEqual([members[0]])
    on.offer('+441632960000', caller)
    expect(prompts(on)).toEqual([])
    expect(open(on)).toHaveLength(1)
  })

  it('is made by an operator for whom they have missed, and carried out by whoever takes it, once', () => {
    const on = day({ ringing: 'none' })
    on.must({ service: 'promiseCallBack', device: 't2100', number: '07700 900001', name: '<b>Ada</b>\u0000', queue })
    const [promise] = open(on)
    expect(promise).toMatchObject({ party: { number: caller.number, name: '<b>Ada</b>' }, by: 't2100' })
    expect(sentenceOf(on.ask({ service: 'promiseCallBack', device: 't2100', number: '+44 7700 900001', queue }))).toContain('already')
    expect(on.ask({ service: 'makeCallBack', device: 't2110', callBack: promise!.id })?.code).toBe('notAllowed')
    const call = on.begins(() => on.must({ service: 'makeCallBack', device: members[0]!, callBack: promise!.id }))
    expect(on.ask({ service: 'makeCallBack', device: 't2100', callBack: promise!.id })?.code).toBe('alreadyAnswered')
    expect(on.ask({ service: 'endCallBack', device: 't2100', callBack: promise!.id })?.code).toBe('notPossibleNow')
    on.must({ service: 'answerCall', device: outside(on, call).device, call })
    expect(over(on)).toMatchObject({ end: 'reached', endedBy: members[0] })
    expect(sentenceOf(on.ask({ service: 'makeCallBack', device: 't2100', callBack: promise!.id }))).toContain('done already')
  })

  it('is made to no number of the network, and ends when the caller is blocked', () => {
    const on = day()
    for (const number of ['999', '112', '101', '2105', '01632 960010', 'nonsense'])
      expect(sentenceOf(on.ask({ service: 'promiseCallBack', device: 't2100', number })), number).toContain('Nothing was promised.')
    const { busy } = promised(on)
    const [mine] = open(on)
    presses(on, waits(on, '999'))
    expect(open(on)).toEqual([mine])
    on.hangUp(busy[0]!, members[0])
    expect(prompts(on)).toHaveLength(1)
    on.must({ service: 'blockNumber', device: 't2101', number: caller.number, reason: 'shouts' })
    expect([open(on), prompts(on)]).toEqual([[], []])
    expect(over(on)).toMatchObject({ end: 'withdrawn', endedBy: 't2101' })
  })

  it('outlives its queue and whoever has it', () => {
    const on = day()
    promised(on)
    const [promise] = open(on)
    on.must({ service: 'assignCallBack', device: 't2100', callBack: promise!.id, to: members[1]! })
    on.configure({ part: 'lines', id: 'freight', value: null })
    on.change('groups', queue, { distribution: 'longestFree' })
    expect(open(on)).toMatchObject([{ id: promise!.id, queue: 'operators', assigned: members[1] }])
    on.must({ service: 'endCallBack', device: 't2100', callBack: promise!.id, word: 'We have sent you the papers.' })
    expect(over(on)).toMatchObject({ end: 'withdrawn', endedBy: 't2100', word: 'We have sent you the papers.' })
  })

  it('is told to an exchange that has begun anew, once', () => {
    const on = day()
    const restored = {
      service: 'restoreCallBack', id: 'other-b7', party: caller, line: 'freight', queue, since: on.now - minute, promisedAt: on.now - minute, by: null,
      assigned: null,
      tries: 1, notBefore: on.now + minute, epoch: 'other',
    } as const
    on.must(restored)
    on.must(restored)
    expect(open(on)).toMatchObject([{ id: 'other-b7', tries: 1 }])
    expect(prompts(on)).toEqual([])
    on.wait(minute)
    expect(prompts(on)).toHaveLength(1)
    on.must({ service: 'endCallBack', device: 't2100', callBack: 'other-b7' })
    expect(prompts(on), 'nobody is rung for what is done').toEqual([])
    on.must(restored)
    expect(open(on), 'nor is it promised again').toEqual([])
  })

  it('rings nobody any more when its queue becomes a group that rings, and is for the operators to keep', () => {
    const on = day()
    const { busy } = promised(on)
    on.hangUp(busy[0]!, members[0])
    expect(ringsAt(on)).toEqual([members[0]])
    on.change('groups', queue, { distribution: 'all' })
    expect(prompts(on)).toEqual([])
    expect(open(on)).toMatchObject([{ queue: 'operators', call: null }])
  })

  it('is not carried out where it is closed, nor without a channel to the outside', () => {
    const on = day()
    const { busy } = promised(on)
    on.must({ service: 'setOpening', device: 't2100', of: queue, open: false, until: on.state.clockOffset + on.now + 60 * minute })
    on.hangUp(busy[0]!, members[0])
    expect(prompts(on)).toEqual([])
    for (const trunk of Object.keys(on.state.company.trunks)) on.must({ service: 'setTrunkService', device: 't2100', trunk, on: false })
    on.must({ service: 'setOpening', device: 't2100', of: queue, open: true, until: null })
    expect(prompts(on)).toEqual([])
    for (const trunk of Object.keys(on.state.company.trunks)) on.must({ service: 'setTrunkService', device: 't2100', trunk, on: true })
    expect(ringsAt(on)).toEqual([members[0]])
  })
})

describe('a member who is rung to call back', () => {
  it('is rung no longer when the last channel is taken, and is not paused for that', () => {
    const on = day({ pauseAfter: 1 })
    const { busy } = promised(on)
    on.hangUp(busy[0]!, members[0])
    expect(ringsAt(on)).toEqual([members[0]])
    for (const trunk of Object.keys(on.state.company.trunks)) on.must({ service: 'setTrunkService', device: 't2100', trunk, on: false })
    expect(prompts(on)).toEqual([])
    on.wait(20 * second)
    expect(on.state.devices.get(members[0]!)!.absences?.[queue]).toBeUndefined()
    expect(open(on)).toHaveLength(1)
  })
})

describe('a promise that nobody of its queue can keep', () => {
  it('goes to the operators when the last who serves it is paused, like a caller who waits', () => {
    const on = day()
    promised(on)
    for (const device of members) on.must({ service: 'setQueueServed', device: 't2100', of: device, queue, state: 'paused', reason: 'Break' })
    expect(open(on)).toMatchObject([{ queue: 'operators' }])
  })

  it('is everybody\'s again when whoever has it has no telephone any more', () => {
    const on = day()
    promised(on)
    const [promise] = open(on)
    on.must({ service: 'assignCallBack', device: 't2100', callBack: promise!.id, to: 't2110' })
    on.change('telephones', 't2110', { inService: false })
    expect(open(on)).toMatchObject([{ assigned: null }])
  })

  it('goes to the operators when its queue is closed for good, and waits for the morning when it opens by itself', () => {
    const on = day()
    promised(on)
    on.must({ service: 'setOpening', device: 't2100', of: queue, open: false, until: on.state.clockOffset + on.now + 10 * minute })
    expect(open(on)).toMatchObject([{ queue }])
    on.must({ service: 'setOpening', device: 't2100', of: queue, open: false, until: null })
    expect(open(on)).toMatchObject([{ queue: 'operators' }])
  })

  it('is told to the operators once when it is older than it may be', () => {
    const on = day()
    away(on, true)
    on.must({ service: 'promiseCallBack', device: 't2100', number: caller.number, name: caller.name, queue: 'operators' })
    const { callBackWithin } = on.state.company.settings
    on.wait(callBackWithin - second)
    expect(open(on)[0]!.late).toBeUndefined()
    const before = on.state.seq
    on.wait(2 * second)
    expect(open(on)[0]!.late).toBe(true)
    expect(on.state.seq).toBe(before + 1)
    on.wait(callBackWithin)
    expect(on.state.seq, 'once').toBe(before + 1)
  })
})

describe('a promise whose caller has reached somebody otherwise', () => {
  const promises = (on: Tryout, by = 't2100') => on.must({ service: 'promiseCallBack', device: by, number: caller.number, queue })

  it('is kept when they talk with a member after it was made, also in the call in which it was', () => {
    const on = day()
    const call = on.offer('+441632960000', caller)
    on.must({ service: 'answerCall', device: 't2100', call })
    promises(on)
    on.wait(second)
    on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: members[0]! })
    on.must({ service: 'answerCall', device: members[0]!, call })
    expect(over(on)).toMatchObject({ end: 'calledAgain', endedBy: members[0] })
  })

  it('stands while whoever promised it talks on with them', () => {
    const on = day({ members: ['t2100', ...members] })
    const call = on.offer('+441632960000', caller)
    on.must({ service: 'answerCall', device: 't2100', call })
    on.wait(second)
    promises(on)
    on.wait(second)
    on.must({ service: 'holdCall', device: 't2100', call })
    on.must({ service: 'retrieveCall', device: 't2100', call })
    expect(open(on)).toHaveLength(1)
  })

  it('is kept when the member has answered on the mobile that rang along', () => {
    const on = day()
    on.change('people', on.state.company.telephones[members[0]!]!.person!, { mobile: '+447700900777' })
    on.must({ service: 'setRingAlong', device: members[0]!, on: true })
    promises(on)
    on.must({ service: 'assignCallBack', device: 't2100', callBack: open(on)[0]!.id, to: members[0]! })
    on.wait(second)
    const call = on.offer(on.state.company.telephones[members[0]!]!.direct!, caller)
    const mobile = on.call(call).connections.find(({ along }) => along)!.device
    on.must({ service: 'answerCall', device: mobile, call })
    expect(over(on)).toMatchObject({ end: 'calledAgain', endedBy: members[0] })
  })

  it('is kept once whoever talks with them belongs to its queue, or has it', () => {
    const on = day()
    const direct = on.offer(on.state.company.telephones.t2107!.direct!, caller)
    on.must({ service: 'promiseCallBack', device: 't2100', number: caller.number })
    on.wait(second)
    on.must({ service: 'answerCall', device: 't2107', call: direct })
    expect(open(on)).toHaveLength(1)
    on.change('groups', 'operators', { members: [...on.state.company.groups.operators!.members, 't2107'] })
    expect(over(on)).toMatchObject({ end: 'calledAgain', endedBy: 't2107' })
  })
})

describe('the numbers that may be called back', () => {
  const premium = '+449098790123'

  it('are a rule of the company: a caller who says that theirs is a dear one keeps their place, and nobody promises it by hand', () => {
    const on = day()
    const busy = engaged(on)
    const call = waits(on, premium)
    presses(on, call)
    expect(on.call(call).connections.some(({ state }) => state === 'queued')).toBe(true)
    expect(spoken(english, on.call(call).caption?.text ?? '')).toContain('can\'t call you back')
    expect(open(on)).toEqual([])
    const { settings } = on.state.company
    on.configure({ part: 'settings', value: { ...settings, callBacksTo: ['inland'] } })
    for (const number of [premium, '+4930901820', '+881631555555'])
      expect(on.ask({ service: 'promiseCallBack', device: 't2100', number, queue })?.code, number).toBe('notAllowed')
    expect(busy).toHaveLength(2)
  })

  it('that are forbidden after a promise was made: nobody is rung for it, and it is for the operators to see to', () => {
    const on = day()
    promised(on)
    const { settings } = on.state.company
    on.configure({ part: 'settings', value: { ...settings, callBacksTo: [] } })
    expect(open(on)[0]).toMatchObject({ queue: 'operators', call: null })
    expect(sentenceOf(on.ask({ service: 'makeCallBack', device: 't2100', callBack: open(on)[0]!.id })))
      .toBe('The company\'s settings let nobody be called back at numbers of the country.')
  })

  it('and those that may be called at all are a rule for whoever dials, and for every rule that leads outside', () => {
    const on = day()
    expect(sentenceOf(on.ask({ service: 'makeCall', device: 't2105',
      number: premium }))).toBe('The company\'s settings allow no calls to numbers at a premium.')
    expect(on.ask({ service: 'makeCall', device: 't2105', number: '+4930901820' })).toBeUndefined()
    expect(on.ask({ service: 'setForwarding', device: 't2106', when: 'always', to: premium })?.code).toBe('notAllowed')
    const { settings } = on.state.company
    on.configure({ part: 'settings', value: { ...settings, callsTo: [] } })
    expect(on.ask({ service: 'makeCall', device: 't2106', number: '020 7946 0123' })?.code).toBe('notAllowed')
    // Help is always reached.
    expect(on.ask({ service: 'makeCall', device: 't2106', number: '999' })).toBeUndefined()
  })
})
