import { describe, expect, it } from 'vitest'
import { quietState } from '../core/calls/snapshot'
import { merrowby } from '../demo/company/merrowby'
import { Attendance } from './attendance'
import { clockOffset, InventedClock, SteadyClock } from './clock'
import { Switch } from './switch'

const start = Date.UTC(2031, 4, 12, 9)
const hour = 3_600_000

describe('the exchange\'s time', () => {
  it('runs steadily, whatever is done to the clock on the wall', () => {
    let elapsed = 5_000
    const clock = new SteadyClock(start, () => elapsed)
    elapsed += 20_000
    expect(clock.now()).toBe(start + 20_000)
  })

  it('follows the clock on the wall by an offset, once that is noticeable', () => {
    expect(clockOffset(start, start + 200, 0)).toBeNull()
    expect(clockOffset(start, start - hour, 0)).toBe(-hour)
    expect(clockOffset(start + 60_000, start + 60_000 - hour, -hour)).toBeNull()
  })
})

describe('who is there', () => {
  it('is whoever at least one server names, and nobody any more when it stops', () => {
    const exchange = new Switch(quietState(merrowby(12), { epoch: 'e', now: start }), new InventedClock(start), null)
    const attendance = new Attendance(exchange)
    const [east, west] = [{}, {}]
    const here = () => [...exchange.state.agents.entries()].filter(([, agent]) => agent.attended).map(([device]) => device)
    attendance.say(east, ['t2100', 't2101', 'nobody'])
    attendance.say(west, ['t2100'])
    expect(here()).toEqual(['t2100', 't2101'])
    const { seq } = exchange.state
    attendance.say(east, ['t2100', 't2101'])
    expect(exchange.state.seq, 'saying it again is no event').toBe(seq)
    attendance.gone(east)
    expect(here()).toEqual(['t2100'])
    attendance.gone(west)
    attendance.gone(west)
    expect(here()).toEqual([])
  })
})

describe('an id', () => {
  it('used again for another request is refused, and a request that comes too late is not carried out', () => {
    const clock = new InventedClock(start)
    const exchange = new Switch(quietState(merrowby(12), { epoch: 'e', now: start }), clock, null)
    expect(exchange.request('one', { service: 'setDoNotDisturb', device: 't2105', on: true }).refusal).toBeUndefined()
    expect(exchange.request('one', { service: 'setDoNotDisturb', device: 't2105', on: false }).refusal).toMatchObject({ code: 'idUsed' })
    clock.advance(6_000)
    expect(exchange.request('two', { service: 'setDoNotDisturb', device: 't2105', on: false }, start + 5_000).refusal).toMatchObject({ code: 'tooLate' })
    expect(exchange.state.devices.get('t2105')!.doNotDisturb).toBe(true)
    expect(exchange.outcome('two')).toMatchObject({ refusal: { code: 'tooLate' } })
    expect(exchange.outcome('three')).toBeNull()
  })
})
