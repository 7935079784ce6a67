import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import type { Group } from '../company/company'
import { lettingRing } from './offers'
import { queueOf } from '../calls/questions'
import { waitingIn } from './turns'
import { sentenceOf, Tryout } from '../calls/tryout'

const queue = 'queue:freight'
const members = ['t2105', 't2106', 't2107']
const second = 1_000

/** An exchange on which three colleagues are rung for freight. */
function day(fields: Partial<Group> = {}) {
  const day = new Tryout(merrowby(12))
  day.change('groups', queue, {
    members, voluntary: [], wrapUp: 0, ringing: 'longestFree', ringTime: 15 * second, tries: 0, pauseAfter: 0, skills: {}, tellEvery: 0, ...fields,
  })
  return day
}

function waiting(on: Tryout): string {
  const call = on.inHand('t2100')
  on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: queue })
  return call
}

const rung = (on: Tryout, call: string) => on.call(call).connections.filter(({ offeredBy }) => offeredBy).map(({ device }) => device)
const answers = (on: Tryout, device: string, call: string) => on.must({ service: 'answerCall', device, call })
/** Whoever is rung takes the call and ends it again. */
function served(on: Tryout, call: string, lasts = second): string {
  const [device] = rung(on, call) as [string]
  answers(on, device, call)
  on.wait(lasts)
  on.must({ service: 'clearConnection', device, call })
  return device
}

describe('a queue that rings its members', () => {
  it('rings whoever has been free longest, then the next, and the call keeps its place in it', () => {
    const on = day()
    for (const device of ['t2105', 't2107']) {
      const call = on.begins(() => on.must({ service: 'makeCall', device, number: 't2110' }))
      on.wait(second)
      on.must({ service: 'clearConnection', device, call })
    }
    const call = waiting(on)
    expect(rung(on, call)).toEqual(['t2106'])
    expect(queueOf(on.call(call))?.device).toBe(queue)
    on.wait(15 * second)
    expect(rung(on, call)).toEqual(['t2105'])
    on.must({ service: 'clearConnection', device: 't2105', call })
    expect(rung(on, call)).toEqual(['t2107'])
    answers(on, 't2107', call)
    expect(on.call(call).connections.map(({ device, state }) => [device, state])).toEqual([[on.call(call).calling, 'connected'], ['t2107', 'connected']])
  })

  it('rings all who are free at once; whoever answers first has it, and the others stop ringing', () => {
    const on = day({ ringing: 'all' })
    const call = waiting(on)
    expect(rung(on, call)).toEqual(members)
    const next = waiting(on)
    expect(rung(on, next)).toEqual([])
    answers(on, 't2106', call)
    expect(on.ask({ service: 'answerCall', device: 't2105', call })?.code).toBe('alreadyAnswered')
    expect(rung(on, next)).toEqual(['t2105', 't2107'])
  })

  it('rings in the order of its members', () => {
    const on = day({ ringing: 'order', members: ['t2107', 't2105', 't2106'] })
    expect([served(on, waiting(on)), served(on, waiting(on))]).toEqual(['t2107', 't2107'])
  })

  it('rings one after the other, so that all have as many', () => {
    const on = day({ ringing: 'turn' })
    expect(new Set([1, 2, 3].map(() => served(on, waiting(on))))).toEqual(new Set(members))
  })

  it('rings the most skilled who is free, and the others when they are not', () => {
    const on = day({ ringing: 'skill', skills: { t2106: 3, t2107: 5 } })
    const first = waiting(on)
    expect(rung(on, first)).toEqual(['t2107'])
    const other = waiting(on)
    expect(rung(on, other)).toEqual(['t2106'])
    expect(rung(on, waiting(on))).toEqual(['t2105'])
  })

  it('sends on whom so many have let ring, and at the longest wait whoever is rung then', () => {
    const on = day({ tries: 2 })
    const call = waiting(on)
    on.wait(15 * second)
    on.wait(15 * second)
    expect(queueOf(on.call(call))?.device).toBe('operators')
    expect(on.call(call).recall).toMatchObject({ from: queue, cause: 'noAnswer' })
    const patient = day({ overflow: { after: 20 * second, to: 'operators' } })
    const long = waiting(patient)
    patient.wait(20 * second)
    expect(patient.call(long).connections.map(({ device }) => device)).toEqual([patient.call(long).calling, 'operators'])
  })

  it('rung at all of them at once counts as one time, however many let it ring', () => {
    const on = day({ ringing: 'all', tries: 2 })
    const call = waiting(on)
    on.wait(15 * second)
    expect(rung(on, call), 'the second time').toEqual(members)
    on.wait(15 * second)
    expect(queueOf(on.call(call))?.device).toBe('operators')
  })

  it('rings each of them once before anybody twice, in its order', () => {
    const on = day({ ringing: 'order', members: ['t2107', 't2105', 't2106'] })
    const call = waiting(on)
    const order = [1, 2, 3, 4].map(() => {
      const [device] = rung(on, call)
      on.wait(15 * second)
      return device
    })
    expect(order).toEqual(['t2107', 't2105', 't2106', 't2107'])
  })

  it('in turn rings whoever has never been rung before who was rung longest ago', () => {
    const on = day({ ringing: 'turn' })
    const order = [1, 2, 3, 4, 5].map(() => served(on, waiting(on)))
    expect(new Set(order.slice(0, 3))).toEqual(new Set(members))
    expect(order.slice(3)).toEqual(order.slice(0, 2))
    on.change('groups', queue, { members: [...members, 't2108'] })
    expect(served(on, waiting(on))).toBe('t2108')
    expect(served(on, waiting(on))).toBe(order[2])
  })

  it('pauses nobody where that was not asked for', () => {
    const on = day({ members: ['t2105'], pauseAfter: 0 })
    waiting(on)
    for (let times = 0; times < 4; times++) on.wait(15 * second)
    expect(on.state.devices.get('t2105')?.absences ?? {}).toEqual({})
    expect(on.state.devices.get('t2105')?.unanswered).toBe(4)
  })

  it('pauses who lets calls ring; who answers in between is not', () => {
    const on = day({ members: ['t2105'], pauseAfter: 2 })
    const call = waiting(on)
    on.wait(15 * second)
    expect(on.state.devices.get('t2105')?.unanswered).toBe(1)
    answers(on, 't2105', call)
    on.must({ service: 'clearConnection', device: 't2105', call })
    const next = waiting(on)
    on.wait(15 * second)
    expect(on.state.devices.get('t2105')?.absences ?? {}).toEqual({})
    on.wait(15 * second)
    expect(on.state.devices.get('t2105')?.absences?.[queue]).toMatchObject({ state: 'paused', reason: lettingRing, by: null })
    expect(queueOf(on.call(next))?.device, 'nobody serves it any more').toBe('operators')
  })

  it.each([
    ['pauses', (on: Tryout) => on.must({ service: 'setQueueServed', device: 't2105', queue, state: 'paused', reason: 'Break' })],
    ['wants no calls', (on: Tryout) => on.must({ service: 'setDoNotDisturb', device: 't2105', on: true })],
    ['goes away', (on: Tryout) => on.must({ service: 'setStatus', device: 't2105', reason: 'lunch', until: null })],
    ['loses their telephone', (on: Tryout) => on.change('telephones', 't2105', { inService: false })],
    ['leaves the queue', (on: Tryout) => on.change('groups', queue, { members: ['t2106', 't2107'] })],
  ])('rings no longer at somebody who %s, and at another at once', (_what, goes) => {
    const on = day({ ringing: 'order' })
    const call = waiting(on)
    expect(rung(on, call)).toEqual(['t2105'])
    goes(on)
    expect(rung(on, call)).toEqual(['t2106'])
  })

  it('who answers at the moment of being paused has the call, or is told that they have not; the caller is with one person', () => {
    const on = day({ ringing: 'order' })
    const call = waiting(on)
    on.must({ service: 'setQueueServed', device: 't2105', queue, state: 'paused', reason: 'Break' })
    answers(on, 't2105', call)
    expect(on.call(call).connections.map(({ device }) => device)).toEqual([on.call(call).calling, 't2105'])
    expect(on.ask({ service: 'answerCall', device: 't2106', call })?.code).toBe('alreadyAnswered')
  })

  it('whose callers go on to itself when they have waited too long ends with somebody else', () => {
    const on = day({ overflow: { after: 20 * second, to: queue } })
    const call = waiting(on)
    on.wait(20 * second)
    expect(queueOf(on.call(call))?.device).toBe('operators')
  })

  it('takes up who is free again', () => {
    const on = day({ members: ['t2105'] })
    const [first, next] = [waiting(on), waiting(on)]
    expect([rung(on, first), rung(on, next)]).toEqual([['t2105'], []])
    answers(on, 't2105', first)
    expect(rung(on, next)).toEqual([])
    on.must({ service: 'clearConnection', device: 't2105', call: first })
    expect(rung(on, next)).toEqual(['t2105'])
  })
})

describe('a queue that is full', () => {
  it('keeps whoever waits there, and sends on who comes then; when it is made smaller, those who came last', () => {
    const on = day({ members: ['t2105'], ringing: 'none', mostWaiting: 2 })
    const calls = [waiting(on), waiting(on), waiting(on)]
    const places = () => calls.map(call => queueOf(on.call(call))?.device)
    expect(places()).toEqual([queue, queue, 'operators'])
    expect(on.call(calls[2]!).recall).toMatchObject({ from: queue, cause: 'overflow' })
    on.change('groups', queue, { mostWaiting: 1 })
    expect(places()).toEqual([queue, 'operators', 'operators'])
  })
})

describe('who waits in a queue', () => {
  it('is put first, or last, by operators alone; it is told in the story of the call', () => {
    const on = day({ members: ['t2105'], ringing: 'none' })
    const [a, b, c] = [waiting(on), waiting(on), waiting(on)]
    const order = () => waitingIn(on.state, queue).map(({ id }) => id)
    on.must({ service: 'putInQueue', device: 't2101', call: c, place: 'first' })
    expect(order()).toEqual([c, a, b])
    on.must({ service: 'putInQueue', device: 't2101', call: b, place: 'first' })
    on.must({ service: 'putInQueue', device: 't2101', call: c, place: 'last' })
    expect(order()).toEqual([b, a, c])
    expect(on.call(b).story.at(-1)).toMatchObject({ type: 'putFirst', device: 't2101', to: queue })
    expect(on.ask({ service: 'putInQueue', device: 't2105', call: a, place: 'first' })?.code).toBe('notAllowed')
    answers(on, 't2105', a)
    expect(sentenceOf(on.ask({ service: 'putInQueue', device: 't2101', call: a, place: 'first' }))).toContain('waits in no queue any more')
  })

  it('hears their place, and about how long it takes once calls of the queue have ended', () => {
    const on = day({ members: ['t2105'], ringing: 'none', tellEvery: 20 * second })
    const first = waiting(on)
    on.wait(20 * second)
    expect(on.call(first).told).toMatchObject({ place: 1, wait: null })
    answers(on, 't2105', first)
    on.wait(120 * second)
    on.must({ service: 'clearConnection', device: 't2105', call: first })
    const [next, last] = [waiting(on), waiting(on)]
    on.wait(20 * second)
    expect([on.call(next).told, on.call(last).told]).toMatchObject([{ place: 1, wait: 120 * second }, { place: 2, wait: 240 * second }])
    on.must({ service: 'putInQueue', device: 't2100', call: last, place: 'first' })
    on.wait(20 * second)
    expect(on.call(last).told?.place).toBe(1)
  })

  it('hears a shorter time where those before give up, a longer one where there is work after a call', () => {
    const on = day({ members: ['t2105'], ringing: 'none', tellEvery: 20 * second, wrapUp: 30 * second, callBackDigit: '1' })
    const first = waiting(on)
    on.wait(30 * second)
    answers(on, 't2105', first)
    on.wait(120 * second)
    on.must({ service: 'clearConnection', device: 't2105', call: first })
    expect(on.state.patience.get(queue)).toEqual({ waited: 30 * second, gaveUp: 0 })
    const next = waiting(on)
    on.wait(20 * second)
    expect(on.call(next).told).toMatchObject({ place: 1, wait: 150 * second })
    on.hangUp(next)
    expect(on.state.patience.get(queue)).toEqual({ waited: 0.99 * 30 * second + 20 * second, gaveUp: 1 })
    const promised = waiting(on)
    on.must({ service: 'generateDigits', device: on.call(promised).calling, call: promised, digits: '1' })
    expect(on.call(promised)).toBeUndefined()
    expect(on.state.patience.get(queue)!.gaveUp, 'to be called back').toBe(0.99)
    const [, last] = [waiting(on), waiting(on)]
    on.wait(20 * second)
    const patience = 0.99 * 30 + 20
    expect(on.call(last).told?.wait).toBe(Math.round(second * (150 + 1 / (1 / 150 + 1 / patience))))
  })
})
