import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { exchangeOf } from '../world/exchange'
import { merrowby } from '../world/merrowby'
import { decide } from './decide'
import { evolve, evolveAll } from './evolve'
import type { Call, CallEvent, ExchangeState, NumberedEvent, Request } from './model'
import { connectionOf, nextDeadline, placesOf, stretchOf } from './questions'

/** Random requests from many devices at once; every law is checked after every single one. LAW_RUNS sets how many sequences. */

const world = merrowby(12)
const devices = world.people.map(person => person.extension)
const operators = world.operatorsGroup.members
const start = Date.UTC(2031, 4, 12, 8)

type Wish
  = | { kind: 'offer', number: number }
    | { kind: 'make', device: number, to: number }
    | { kind: 'own', service: 'answerCall' | 'clearConnection' | 'holdCall' | 'retrieveCall', call: number, who: number }
    | { kind: 'transfer', call: number, who: number, to: number }
    | { kind: 'disturb', device: number, on: boolean }
    | { kind: 'status', device: number, minutes: number | null }
    | { kind: 'wait', ms: number }

const nat = fc.nat({ max: 63 })
const wish: fc.Arbitrary<Wish> = fc.oneof(
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('offer' as const), number: nat }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('make' as const), device: nat, to: nat }) },
  {
    weight: 8,
    arbitrary: fc.record({
      kind: fc.constant('own' as const),
      service: fc.constantFrom('answerCall' as const, 'answerCall' as const, 'clearConnection' as const, 'holdCall' as const, 'retrieveCall' as const),
      call: nat, who: nat,
    }),
  },
  { weight: 4, arbitrary: fc.record({ kind: fc.constant('transfer' as const), call: nat, who: nat, to: nat }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('disturb' as const), device: nat, on: fc.boolean() }) },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('status' as const), device: nat, minutes: fc.option(fc.nat({ max: 3 })) }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('wait' as const), ms: fc.nat({ max: 20_000 }) }) },
)

function at<T>(list: readonly T[], index: number): T | undefined {
  return list.length ? list[index % list.length] : undefined
}

/** Mostly somebody who is in the call or may answer it, sometimes a stranger. */
function who(call: Call, index: number): string {
  const able = [...call.connections.map(connection => connection.device), ...operators]
  return index % 9 === 8 ? at(devices, index)! : at(able, index)!
}

function requestOf(state: ExchangeState, wanted: Wish): Request | null {
  const calls = Object.values(state.calls)
  switch (wanted.kind) {
    case 'offer': {
      const numbers = [...world.lines.map(line => line.number), '+441632960105', '+441632960999']
      return { service: 'offerCall', trunk: wanted.number % 2 ? 'east' : 'west', party: { number: null, name: '<b>x</b>\u0000' }, number: at(numbers, wanted.number)! }
    }
    case 'make': {
      const numbers = [...devices, '0', '07700 900123', '12', 'nonsense']
      return { service: 'makeCall', device: at(devices, wanted.device)!, number: at(numbers, wanted.to)! }
    }
    case 'own': {
      const call = at(calls, wanted.call)
      return call ? { service: wanted.service, call: call.id, device: who(call, wanted.who) } : null
    }
    case 'transfer': {
      const call = at(calls, wanted.call)
      return call ? { service: 'singleStepTransferCall', call: call.id, device: who(call, wanted.who), to: at([...devices, '9'], wanted.to)! } : null
    }
    case 'disturb': return { service: 'setDoNotDisturb', device: at(devices, wanted.device)!, on: wanted.on }
    case 'status':
      return { service: 'setStatus', device: at(devices, wanted.device)!, reason: wanted.minutes === null ? null : 'break', until: wanted.minutes && state.time + wanted.minutes * 60_000 }
    case 'wait': return { service: 'tick' }
  }
}

function carryOut(state: ExchangeState, request: Request, now: number): { state: ExchangeState, events: NumberedEvent[], refused: boolean } {
  const decision = decide(state, request, now)
  if ('refusal' in decision) return { state, events: [], refused: true }
  const events = decision.events.map((event: CallEvent, index) => ({ ...event, seq: state.seq + 1 + index, at: now }))
  return { state: evolveAll(state, events), events, refused: false }
}

/** Plain and quick: laws are checked hundreds of thousands of times. */
function law(holds: unknown, words: string): void {
  if (!holds) throw new Error(`broken law: ${words}`)
}

/** Whoever changes an old state from now on throws. What is frozen already is passed over, so each change is frozen once. */
function freeze<T>(value: T): T {
  if (typeof value !== 'object' || value === null || Object.isFrozen(value)) return value
  Object.freeze(value)
  for (const part of Object.values(value)) freeze(part)
  return value
}

function checkState(state: ExchangeState): void {
  const talkers = new Set<string>()
  for (const call of Object.values(state.calls)) {
    const places = placesOf(call)
    law(places.length === 1, `call ${call.id} is in exactly one place, not in ${places.join(' and ') || 'none'}`)
    law(connectionOf(call, call.calling), 'the caller is in the call')
    law(new Set(call.connections.map(connection => connection.device)).size === call.connections.length, 'nobody is in a call twice')
    const rings = call.connections.some(connection => connection.state === 'alerting' || connection.state === 'failed')
    law((call.deadline !== null) === rings, 'what rings or failed, and nothing else, ends by itself')
    law(call.passing === null || call.connections.some(connection => connection.state === 'alerting'), 'a call passed on rings somewhere')
    law(operators.filter(operator => stretchOf(state, call, operator) === 'passedOn').length <= 1, 'one operator watches a call passed on')
    for (const connection of call.connections) {
      if (connection.state !== 'connected') continue
      law(!talkers.has(connection.device), `${connection.device} talks on at most one call`)
      talkers.add(connection.device)
    }
  }
}

/** Nobody begins to talk, and no caller goes, except by what somebody who may do so has asked for. */
function checkChange(before: ExchangeState, after: ExchangeState, request: Request): void {
  const asked = 'device' in request ? request.device : null
  for (const [id, call] of Object.entries(before.calls)) {
    const later = after.calls[id]
    if (later === call) continue
    if (later) {
      for (const { device, state } of later.connections) {
        if (state !== 'connected' || connectionOf(call, device)?.state === 'connected') continue
        law(device === asked, 'only who asks begins to talk')
        law(request.service === 'answerCall' || request.service === 'retrieveCall', 'people begin to talk by answering or taking back')
      }
      continue
    }
    const failed = call.connections.some(connection => connection.state === 'failed')
    const own = request.service === 'clearConnection' && request.call === id ? connectionOf(call, request.device) : undefined
    law(failed || own, 'a call ends only by one of its parties, or after the tone')
    const cutsOff = own && !own.party && own.state === 'held' && call.connections.some(connection => connection !== own && connection.state === 'connected')
    law(!cutsOff, 'nobody who hears music is cut off by who put them on hold')
  }
}

const runs = Number(process.env.LAW_RUNS ?? 3600)

describe('the laws of calls', () => {
  it('hold after every request of long random sequences', () => {
    let requests = 0
    fc.assert(fc.property(fc.array(wish, { minLength: 20, maxLength: 120 }), (wishes) => {
      const initial = exchangeOf(world, { epoch: 'law', now: start })
      let state = initial
      let now = start
      const journal: NumberedEvent[] = []
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += wanted.ms
        const request = requestOf(state, wanted)
        if (!request) continue
        requests++
        const result = carryOut(freeze(state), request, now)
        if (!result.refused) checkChange(state, result.state, request)
        state = result.state
        journal.push(...result.events)
        checkState(state)
      }
      expect(evolveAll(initial, JSON.parse(JSON.stringify(journal))), 'the same events give the same state').toEqual(JSON.parse(JSON.stringify(state)))
    }), { numRuns: runs, verbose: 1 })
    console.log(`${requests} requests`)
    expect(requests).toBeGreaterThan(runs * 10)
  }, 120_000)

  it('every call comes to rest by itself once nobody acts: it waits for an operator, is talked on, or is over', () => {
    fc.assert(fc.property(fc.array(wish, { minLength: 10, maxLength: 60 }), (wishes) => {
      let state = exchangeOf(world, { epoch: 'rest', now: start })
      let now = start
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += wanted.ms
        const request = requestOf(state, wanted)
        if (request) state = carryOut(state, request, now).state
      }
      for (let i = 0; i < 200; i++) {
        const next = nextDeadline(state)
        if (next === null) break
        now = Math.max(now, next)
        state = carryOut(state, { service: 'tick' }, now).state
        checkState(state)
      }
      expect(nextDeadline(state)).toBeNull()
      for (const call of Object.values(state.calls)) expect(['waiting', 'talking', 'onHold']).toContain(placesOf(call)[0])
    }), { numRuns: Math.ceil(runs / 4) })
  }, 120_000)

  it('an event about something unknown changes nothing but the number', () => {
    const state = exchangeOf(world, { epoch: 'odd', now: start })
    const after = evolve(state, { type: 'held', call: 'nowhere', device: '2100', seq: 1, at: start })
    expect(after).toEqual({ ...state, seq: 1 })
  })
})
