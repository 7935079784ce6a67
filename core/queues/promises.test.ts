import { beforeEach, describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { dueOf, promises, urgency } from './promises'
import { callsByAge } from '../calls/questions'
import { Tryout } from '../calls/tryout'

/** What orders the track: what a call waits for, since when, and by when that was promised. */

const ines = 't2100'
const tomas = 't2101'
const marit = 't2105'
let desk: Tryout

beforeEach(() => {
  desk = new Tryout(merrowby(40))
})

const due = (call: string, device = ines, linePromise: number | null = 20_000) => dueOf(desk.state, desk.call(call), device, linePromise)

describe('what a call waits for', () => {
  it('an answer, by the promise of its line, or of a direct call', () => {
    const call = desk.offer()
    desk.wait(5_000)
    expect(due(call)).toEqual({ waiting: 'answer', since: desk.now - 5_000, promise: 20_000 })
    expect(due(call, ines, null).promise).toBe(promises.direct)
  })

  it('an answer again when it has come back, from then on', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    desk.hangUp(call, marit)
    expect(due(call)).toEqual({ waiting: 'recall', since: desk.now, promise: promises.recall })
  })

  it('nothing while people talk; to be taken back while it is on hold; nothing when a conference goes on without us', () => {
    const call = desk.inHand(ines)
    expect(due(call)).toMatchObject({ waiting: 'none', promise: null })
    desk.must({ service: 'holdCall', device: ines, call })
    expect(due(call)).toEqual({ waiting: 'hold', since: desk.now, promise: promises.hold })
    desk.must({ service: 'retrieveCall', device: ines, call })
    const asking = desk.consult(ines, call, marit)
    expect(due(asking)).toMatchObject({ waiting: 'reply', promise: null })
    desk.must({ service: 'answerCall', device: marit, call: asking })
    desk.must({ service: 'conferenceCall', device: ines, call, other: asking })
    desk.must({ service: 'holdCall', device: ines, call })
    expect(due(call)).toMatchObject({ waiting: 'hold', promise: null })
  })

  it('whoever it was passed on to, until it comes back by itself', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: marit })
    expect(due(call)).toEqual({ waiting: 'transfer', since: desk.now, promise: desk.state.company.settings.transferRecall })
    const queued = desk.inHand(tomas)
    desk.must({ service: 'singleStepTransferCall', device: tomas, call: queued, to: '602' })
    expect(due(queued, tomas)).toMatchObject({ waiting: 'transfer', promise: desk.state.company.settings.queueRecall })
  })

  it('nobody, when two parties outside talk through us', () => {
    const call = desk.inHand(ines)
    desk.must({ service: 'singleStepTransferCall', device: ines, call, to: '+442079460123' })
    const leg = desk.call(call).connections.find(({ state }) => state === 'alerting')!.device
    desk.must({ service: 'answerCall', device: leg, call })
    expect(due(call)).toMatchObject({ waiting: 'outside', promise: null })
  })
})

describe('calls by their age', () => {
  it('keep their order while others come and go, however many there are', () => {
    const calls = Array.from({ length: 10 }, () => {
      desk.wait(100)
      return [desk.offer(), desk.offer()]
    }).flat()
    for (const call of calls.filter((_, index) => index % 5 === 0)) desk.hangUp(call)
    expect(callsByAge(desk.state).map(({ id }) => id)).toEqual(calls.filter((_, index) => index % 5 !== 0))
  })
})

describe('urgency', () => {
  it('is the part of the promise that is used up, and goes on growing past it', () => {
    expect([0, 5_000, 20_000, 60_000].map(ms => urgency({ waiting: 'answer', since: 0, promise: 20_000 }, ms))).toEqual([0, 0.25, 1, 3])
  })

  it('is nothing where nothing was promised, and before it began', () => {
    expect(urgency({ waiting: 'none', since: 0, promise: null }, 1e9)).toBe(0)
    expect(urgency({ waiting: 'answer', since: 10_000, promise: 20_000 }, 0)).toBe(0)
  })
})
