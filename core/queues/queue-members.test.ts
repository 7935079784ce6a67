import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { freeMembers } from '../calls/indexes'
import { queueOf } from '../calls/questions'
import { sentenceOf, Tryout } from '../calls/tryout'

const queue = 'queue:freight'

/** An exchange on which two colleagues serve freight, the second of whom may leave; and a caller whom an operator has answered. */
function day(wrapUp = 0) {
  const day = new Tryout(merrowby(12))
  const members = ['t2105', 't2106']
  day.change('groups', queue, { members, voluntary: ['t2106'], wrapUp, ringing: 'none' })
  return day
}
const serve = (on: Tryout, device: string, state: 'serving' | 'paused' | 'left', reason?: string, of?: string) =>
  on.ask({ service: 'setQueueServed', device, queue, state, ...(reason && { reason }), ...(of && { of }) })
const free = (on: Tryout) => freeMembers(on.state, on.state.company.groups[queue]!)

function waiting(on: Tryout): string {
  const call = on.inHand('t2100')
  on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: queue })
  return call
}

describe('a member of a queue', () => {
  it('pauses with one of the reasons that the company keeps, and serves again; free for everything else meanwhile', () => {
    const on = day()
    expect(sentenceOf(serve(on, 't2105', 'paused', 'boredom'))).toBe('Say why: Break, Paperwork, Training, Called away.')
    expect(serve(on, 't2105', 'paused', 'Paperwork')).toBeUndefined()
    expect(free(on)).toEqual(['t2106'])
    expect(on.ask({ service: 'makeCall', device: 't2100', number: 't2105' })).toBeUndefined()
    expect(serve(on, 't2105', 'serving')).toBeUndefined()
    expect(on.state.devices.get('t2105')?.absences).toEqual({})
  })

  it('leaves it when they belong to it of their own will, and not otherwise', () => {
    const on = day()
    expect(sentenceOf(serve(on, 't2105', 'left'))).toContain('pause instead')
    expect(serve(on, 't2106', 'left')).toBeUndefined()
    expect(free(on)).toEqual(['t2105'])
    expect(serve(on, 't2107', 'left')?.code).toBe('notAllowed')
    expect(serve(on, 't2107', 'paused', 'Break', 't2105')?.code).toBe('notAllowed')
    expect(serve(on, 't2101', 'paused', 'Break', 't2105')).toBeUndefined()
    expect(on.state.devices.get('t2105')?.absences?.[queue]).toMatchObject({ reason: 'Break', by: 't2101' })
  })

  it('who is the last to go leaves nobody waiting: the operators get the caller', () => {
    for (const goes of [
      (on: Tryout) => serve(on, 't2106', 'left'),
      (on: Tryout) => serve(on, 't2106', 'paused', 'Training'),
      (on: Tryout) => on.change('telephones', 't2106', { inService: false }),
      (on: Tryout) => on.change('groups', queue, { members: ['t2105'], voluntary: [] }),
    ]) {
      const on = day()
      const call = waiting(on)
      serve(on, 't2105', 'paused', 'Break')
      expect(queueOf(on.call(call))?.device).toBe(queue)
      expect(goes(on)).toBeUndefined()
      expect(queueOf(on.call(call))?.device).toBe('operators')
      expect(on.call(call).recall).toMatchObject({ from: queue, cause: 'nobodyServes' })
    }
  })

  it('who has work to do after a call is back in a moment: nobody is sent away for it', () => {
    const on = day(20_000)
    on.change('groups', queue, { members: ['t2105'], voluntary: [], ringing: 'order' })
    const [first, next] = [waiting(on), waiting(on)]
    on.must({ service: 'answerCall', device: 't2105', call: first })
    on.must({ service: 'clearConnection', device: on.call(first).calling, call: first })
    expect(queueOf(on.call(next))?.device).toBe(queue)
    expect(on.call(next).connections.some(({ device }) => device === 't2105')).toBe(false)
    on.wait(20_000)
    expect(on.call(next).connections.find(({ device }) => device === 't2105')?.state).toBe('alerting')
  })

  it('nobody is sent to a queue whose members have all paused', () => {
    const on = day()
    for (const device of ['t2105', 't2106']) serve(on, device, 'paused', 'Break')
    const call = on.inHand('t2100')
    expect(sentenceOf(on.ask({ service: 'singleStepTransferCall', device: 't2100', call, to: queue })))
      .toBe('Nobody serves Freight queue at present. Your caller is still with you.')
  })

  it('called at the moment of pausing has the call all the same', () => {
    const on = day()
    const call = waiting(on)
    serve(on, 't2105', 'paused', 'Break')
    on.must({ service: 'answerCall', device: 't2105', call })
    expect(on.call(call).connections.map(({ device }) => device)).toContain('t2105')
  })

  it('has time for what a call leaves to be done, and may cut it short; only after calls of that queue', () => {
    const on = day(20_000)
    const call = waiting(on)
    on.must({ service: 'answerCall', device: 't2105', call })
    on.must({ service: 'clearConnection', device: 't2105', call })
    expect(free(on)).toEqual(['t2106'])
    on.now += 20_000
    on.must({ service: 'tick' })
    expect(free(on)).toContain('t2105')
    const other = waiting(on)
    on.must({ service: 'answerCall', device: 't2105', call: other })
    on.must({ service: 'clearConnection', device: on.call(other).calling, call: other })
    expect(free(on)).toEqual(['t2106'])
    expect(serve(on, 't2105', 'serving')).toBeUndefined()
    expect(free(on)).toContain('t2105')
    on.must({ service: 'makeCall', device: 't2107', number: 't2105' })
    const [inside] = [...on.state.calls.keys()].slice(-1)
    on.must({ service: 'answerCall', device: 't2105', call: inside! })
    on.must({ service: 'clearConnection', device: 't2105', call: inside! })
    expect(free(on)).toContain('t2105')
  })
})
