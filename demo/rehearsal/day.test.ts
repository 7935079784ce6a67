import { describe, expect, it } from 'vitest'
import { InventedClock } from '../../exchange/clock'
import { Switch } from '../../exchange/switch'
import type { ExchangeState } from '../../core/calls/model'
import { quietState } from '../../core/calls/snapshot'
import { merrowby } from '../company/merrowby'
import { WorkingDay } from './day'
import { Rehearsal, type RehearsalOptions } from './rehearsal'

const minute = 60_000
const nine = Date.UTC(2031, 4, 12, 9)

function company(start: number, options: Partial<RehearsalOptions>, attended: string[]): { exchange: Switch, clock: InventedClock } {
  const clock = new InventedClock(start)
  const merrow = merrowby()
  const rehearsal = new Rehearsal(merrow, { seed: 7, callerEvery: null, livelyColleagues: false, ...options }, start)
  return { clock, exchange: new Switch(quietState(merrow, { epoch: 'day', now: start, attended }), clock, rehearsal) }
}

function reachable(state: ExchangeState): number {
  const devices = [...state.devices.entries()]
  return devices.filter(([id, device]) => state.company.telephones[id]!.inService && !device.doNotDisturb && !device.status.reason).length / devices.length
}

const awayFor = (state: ExchangeState, reason: string) => [...state.devices.values()].filter(device => device.status.reason === reason).length

describe('the working day of the colleagues', () => {
  it.each([7, 12, 31])(
    'at every minute of eight hours three quarters to nine tenths can be reached; lunch is at noon, and nobody has gone for the day (seed %i)',
    seed => {
      const { exchange, clock } = company(nine, { livelyColleagues: true, seed }, [])
      const lunching: number[] = []
      for (let at = 1; at < 480; at++) {
        clock.advance(minute)
        const share = reachable(exchange.state)
        expect(share, `after ${at} minutes`).toBeGreaterThanOrEqual(0.75)
        expect(share, `after ${at} minutes`).toBeLessThanOrEqual(0.9)
        expect(awayFor(exchange.state, 'gone')).toBe(0)
        lunching[at] = awayFor(exchange.state, 'lunch')
      }
      expect(lunching[3.5 * 60]!, 'at half past twelve').toBeGreaterThan(15)
      expect(lunching[60]! + lunching[400]!, 'in the morning and in the afternoon').toBe(0)
    },
    60_000,
  )

  it('ends with going home, and begins again in the morning', () => {
    const { exchange, clock } = company(nine, { livelyColleagues: true }, [])
    clock.advance(10 * 60 * minute)
    expect(awayFor(exchange.state, 'gone')).toBeGreaterThan(150)
    clock.advance(13.5 * 60 * minute)
    expect(reachable(exchange.state), 'half past eight').toBeGreaterThan(0.75)
    expect(awayFor(exchange.state, 'gone')).toBe(0)
  }, 120_000)

  it('looked at late in the evening is a late shift', () => {
    const late = nine + 13 * 60 * minute
    const day = new WorkingDay(late, 0)
    expect(day.awayAt(late + 7 * 60 * minute)).toBeLessThan(0.2)
    expect(day.awayAt(late + 9.5 * 60 * minute)).toBeGreaterThan(0.9)
    expect(day.awayAt(late + 12 * 60 * minute)).toBeLessThan(0.2)
  })
})

describe('the first ten minutes', () => {
  const seeds = [7, 12, 31, 44, 58, 63, 71, 88]

  it('bring nobody before somebody is at a console, then one caller, then more', () => {
    const all = seeds.map((seed) => {
      const { exchange, clock } = company(nine, { callerEvery: 25_000, grows: true, seed }, [])
      const calls: number[] = []
      exchange.onEvent((event) => {
        if (event.type === 'originated') calls.push(event.at)
      })
      clock.advance(5 * minute)
      expect(calls).toEqual([])
      exchange.request('in', { service: 'setAgentState', device: 't2100', attended: true })
      const begun = clock.now()
      clock.advance(20 * minute)
      const within = (from: number, to: number) => calls.filter(at => at >= begun + from * minute && at < begun + to * minute).length
      expect(within(0, 1)).toBeGreaterThanOrEqual(1)
      return { first: within(0, 1), early: within(0, 5), late: within(10, 15) }
    })
    const sum = (of: (one: typeof all[number]) => number) => all.reduce((total, one) => total + of(one), 0)
    expect(sum(({ first }) => first) / seeds.length).toBeLessThanOrEqual(2)
    expect(sum(({ late }) => late)).toBeGreaterThan(1.5 * sum(({ early }) => early))
  })
})
