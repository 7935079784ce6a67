import { beforeEach, describe, expect, it } from 'vitest'
import { evolveAll } from '../core/calls/evolve'
import { quietState, snapshotOf } from '../core/calls/snapshot'
import { merrowby } from '../demo/company/merrowby'
import { InventedClock } from './clock'
import { Switch } from './switch'

const start = Date.UTC(2031, 4, 12, 9)
const company = merrowby(12)
let clock: InventedClock
let exchange: Switch

beforeEach(() => {
  clock = new InventedClock(start)
  exchange = new Switch(quietState(company, { epoch: 'e', now: start, attended: company.groups.operators!.members }), clock, null)
})

const offer = (id: string) => exchange.request(id, { service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960000' })

describe('the switching part of the exchange', () => {
  it('carries out a request once, however often its id comes', () => {
    const first = offer('a')
    expect(offer('a')).toEqual(first)
    expect([...exchange.state.calls.keys()]).toEqual([first.call])
    expect(exchange.request('b', { service: 'answerCall', device: 't2100', call: 'nowhere' }).refusal).toMatchObject({ code: 'unknownCall' })
    expect(exchange.state.seq).toBe(first.seq)
  })

  it('makes what is due happen by itself, at its time', () => {
    const { call } = exchange.request('a', { service: 'makeCall', device: 't2105', number: 't2106' })
    clock.advance(29_999)
    expect(exchange.state.calls.get(call!)!.connections[1]!.state).toBe('alerting')
    clock.advance(1)
    expect(exchange.state.calls.get(call!)!.failed).toMatchObject({ cause: 'noAnswer' })
    clock.advance(5_000)
    expect(exchange.state.calls.size).toBe(0)
  })

  it('tells history from a state at or before what is asked for, complete as long as it remembers', () => {
    for (let i = 0; i < 400; i++) {
      const { call } = offer(`o${i}`)
      exchange.request(`c${i}`, { service: 'clearConnection', device: exchange.state.calls.get(call!)!.calling, call: call! })
    }
    const { seq } = exchange.state
    for (const since of [0, 1, 249, 250, 251, seq - 1, seq]) {
      const { state, events, complete } = exchange.history({ epoch: 'e', seq: since })
      expect(complete).toBe(true)
      expect(state.seq).toBeLessThanOrEqual(since)
      expect(snapshotOf(evolveAll(state, events))).toEqual(snapshotOf(exchange.state))
    }
    expect(exchange.history({ epoch: 'another', seq: 5 }).state.seq).toBe(0)
  })

  it('whoever listens hears every event until they stop', () => {
    const heard: number[] = []
    const stop = exchange.onEvent(event => heard.push(event.seq))
    offer('a')
    stop()
    offer('b')
    expect(heard).toEqual([1, 2])
  })
})
