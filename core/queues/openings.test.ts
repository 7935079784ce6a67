import { describe, expect, it } from 'vitest'
import { merrowby } from '../../demo/company/merrowby'
import { isOpen } from './openings'
import { queueOf } from '../calls/questions'
import { sentenceOf, Tryout } from '../calls/tryout'

const hour = 3_600_000
const freight = 'queue:freight'
const office = (opens: number, closes: number, zone = 'UTC') =>
  ({ id: 'desk', name: 'Desk hours', zone, week: [1, 2, 3, 4, 5].map(day => ({ day, opens: opens * 60, closes: closes * 60 })), holidays: [] })

/** Monday, 12 May 2031, 9:00 UTC. */
function day(hours = office(8, 17)) {
  const on = new Tryout(merrowby(12))
  on.configure({ part: 'hours', id: 'desk', value: hours })
  on.must({ service: 'tick' })
  return on
}
const opens = (on: Tryout, of: string, open: boolean | null, until: number | null = null, device = 't2100') =>
  on.ask({ service: 'setOpening', device, of, open, until })

describe('a queue that closes', () => {
  it('sends on who waits there: to the operators, with what has happened; nobody is sent there any more', () => {
    const on = day()
    const call = on.inHand('t2100')
    on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: freight })
    expect(opens(on, freight, false)).toBeUndefined()
    expect(queueOf(on.call(call))?.device).toBe('operators')
    expect(on.call(call).recall).toMatchObject({ from: freight, cause: 'closed' })
    const other = on.inHand('t2101')
    expect(sentenceOf(on.ask({ service: 'singleStepTransferCall', device: 't2101', call: other, to: freight })))
      .toBe('Freight queue is closed at present. Your caller is still with you.')
  })

  it('whose overflow leads back to it does not turn in a circle', () => {
    const on = day()
    on.change('groups', freight, { overflow: { after: 10_000, to: freight } })
    const call = on.inHand('t2100')
    on.must({ service: 'singleStepTransferCall', device: 't2100', call, to: freight })
    on.now += 10_000
    on.must({ service: 'tick' })
    expect(queueOf(on.call(call))?.device).not.toBe(freight)
  })
})

describe('a line that closes', () => {
  it('sends who waits and who calls to where it goes at night; who has been answered is left in peace', () => {
    const on = day()
    const talking = on.inHand('t2100')
    const waiting = on.offer()
    expect(opens(on, 'general', false)).toBeUndefined()
    for (const call of [waiting, on.offer()]) expect(on.call(call).connections.map(({ device }) => device)).toContain('mailbox:general')
    on.must({ service: 'singleStepTransferCall', device: 't2100', call: talking, to: freight })
    expect(queueOf(on.call(talking))?.device).toBe(freight)
    // Another line goes on.
    expect(queueOf(on.call(on.offer('+441632960020')))?.device).toBe('operators')
  })

  it('is closed for as long as was said, by operators alone, and then as its hours say', () => {
    const on = day()
    on.change('lines', 'general', { hours: 'desk' })
    on.must({ service: 'tick' })
    expect(opens(on, 'general', false, null, 't2105')?.code).toBe('notAllowed')
    expect(sentenceOf(opens(on, 'general', false, on.now - 1))).toContain('over already')
    expect(opens(on, 'nowhere', false)?.code).toBe('unallocatedNumber')
    expect(opens(on, 'general', false, on.now + hour)).toBeUndefined()
    expect(isOpen(on.state, 'general')).toBe(false)
    on.now += hour
    on.must({ service: 'tick' })
    expect(isOpen(on.state, 'general')).toBe(true)
    on.now += 8 * hour
    on.must({ service: 'tick' })
    expect(isOpen(on.state, 'general')).toBe(false)
    // Somebody stays on; and leaves it to the hours again.
    expect(opens(on, 'general', true)).toBeUndefined()
    expect(isOpen(on.state, 'general')).toBe(true)
    expect(opens(on, 'general', null)).toBeUndefined()
    expect(isOpen(on.state, 'general')).toBe(false)
  })

  it('follows its hours when these, or the clock, change', () => {
    const on = day()
    on.change('lines', 'general', { hours: 'desk' })
    on.must({ service: 'tick' })
    expect(isOpen(on.state, 'general')).toBe(true)
    on.configure({ part: 'hours', id: 'desk', value: office(12, 17) })
    on.must({ service: 'tick' })
    expect(isOpen(on.state, 'general')).toBe(false)
    on.must({ service: 'adjustClock', offset: 4 * hour })
    on.must({ service: 'tick' })
    expect(isOpen(on.state, 'general')).toBe(true)
    on.configure({ part: 'hours', id: 'desk', value: { ...office(8, 17), holidays: [{ date: '2031-05-12', name: 'Regatta' }] } })
    on.must({ service: 'tick' })
    expect(isOpen(on.state, 'general')).toBe(false)
  })

  it('sends callers to where whoever closed it has said', () => {
    const on = day()
    const waiting = on.offer()
    on.must({ service: 'setOpening', device: 't2100', of: 'general', open: false, until: null, to: '2105' })
    const where = (call: string) => on.call(call).connections.map(({ device }) => device)
    expect(where(waiting)).toEqual([on.call(waiting).calling, 't2105'])
    on.hangUp(waiting)
    const next = on.offer()
    expect(where(next)).toEqual([on.call(next).calling, 't2105'])
  })

  it('leaves whoever comes back to the operators with them', () => {
    const on = day()
    const call = on.offer()
    on.must({ service: 'deflectCall', device: 't2100', call, to: '2105' })
    on.wait(30_000)
    expect(on.call(call)).toMatchObject({ recall: { from: 't2105' } })
    expect(opens(on, 'general', false)).toBeUndefined()
    expect(queueOf(on.call(call))?.device).toBe('operators')
  })

  it('stays closed by hand whatever becomes of its hours', () => {
    const on = day()
    on.change('lines', 'general', { hours: 'desk' })
    on.must({ service: 'tick' })
    expect(opens(on, 'general', false)).toBeUndefined()
    on.configure({ part: 'hours', id: 'desk', value: office(0, 24) })
    on.must({ service: 'tick' })
    expect(isOpen(on.state, 'general')).toBe(false)
  })
})

it('operators who close send their callers to where each line goes at night, not to themselves', () => {
  const on = day()
  const waiting = on.offer()
  expect(opens(on, 'operators', false)?.code, 'by hand they never are').toBe('notPossibleNow')
  on.configure({ part: 'hours', id: 'desk', value: office(12, 17) })
  on.change('groups', 'operators', { hours: 'desk' })
  on.must({ service: 'tick' })
  expect(on.call(waiting).connections.map(({ device }) => device)).toContain('mailbox:general')
})
