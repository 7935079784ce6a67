import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { exchangeOf } from '../world/exchange'
import { merrowby } from '../world/merrowby'
import { decide } from './decide'
import { evolve, evolveAll, numbered } from './evolve'
import type { Call, Connection, DeviceId, ExchangeState, NumberedEvent, Request } from './model'
import { isMailbox, mailboxOf } from './names'
import { connectionOf, isOrphaned, isPresent, nextDeadline, parkedIn, placesOf, serves, stretchOf } from './questions'

/** Random requests from many devices at once; every law is checked after every single one. LAW_RUNS sets how many sequences. */

const world = merrowby(12)
const devices = world.people.map(person => person.extension)
const operators = world.operatorsGroup.members
const start = Date.UTC(2031, 4, 12, 8)
const slots = ['slot:1', 'slot:2', 'slot:3', null]
const destinations = [...devices, '0', '9', '601', 'group:directors', 'group:reservations', '07700 900123', '+447700900555', '701', mailboxOf('2105'), mailboxOf('general'), 'nonsense', '__proto__']

function begin(epoch: string): ExchangeState {
  const state = exchangeOf(world, { epoch, now: start, attended: operators })
  // Two slots and few channels, so that both run out.
  return { ...state, slots: Object.fromEntries(Object.entries(state.slots).slice(0, 2)), trunks: { east: { id: 'east', channels: 5 }, west: { id: 'west', channels: 3 } } }
}

/** What somebody wants, in small numbers that are read against whatever calls and people there are. */
interface Wish { kind: typeof kinds[number][1], a: number, b: number, c: number }

const kinds = [
  [5, 'offer'], [4, 'make'], [12, 'answer'], [4, 'clear'], [3, 'hold'], [5, 'retrieve'], [8, 'consult'], [5, 'complete'], [3, 'reconnect'], [6, 'transfer'],
  [3, 'deflect'], [3, 'move'], [6, 'join'], [4, 'invite'], [3, 'drop'], [1, 'endAll'], [4, 'park'], [6, 'pickUp'], [2, 'groupPickUp'], [2, 'mute'], [1, 'digits'],
  [1, 'disturb'], [1, 'status'], [2, 'attend'], [1, 'serve'], [1, 'block'], [1, 'unplug'], [5, 'wait'],
] as const
const nat = fc.nat({ max: 63 })
const wish: fc.Arbitrary<Wish> = fc.record({
  kind: fc.oneof(...kinds.map(([weight, kind]) => ({ weight, arbitrary: fc.constant(kind) }))), a: nat, b: nat, c: nat,
})

function at<T>(list: readonly T[], index: number): T {
  return list[index % list.length]!
}

/** Mostly one of those in a fitting state, sometimes anybody of the call or an operator, now and then a stranger. */
function who(call: Call, index: number, fits: readonly Connection['state'][]): DeviceId {
  if (index % 9 === 8) return at(devices, index)
  const fitting = call.connections.filter(({ state, party }) => !party && fits.includes(state)).map(connection => connection.device)
  return at(fitting.length > 0 && index % 7 !== 6 ? fitting : [...call.connections.map(connection => connection.device), ...operators], index)
}

/** Mostly a call in a fitting place, so that every service is tried in earnest; sometimes any. */
function fitting(calls: Call[], index: number, fits: (call: Call) => boolean): Call {
  const such = calls.filter(fits)
  return at(such.length > 0 && index % 8 !== 7 ? such : calls, index)
}

const talked = (call: Call) => placesOf(call)[0] === 'talking' || placesOf(call)[0] === 'onHold'
const led = (call: Call) => call.conference !== null || call.connections.some(({ invited }) => invited)

function requestOf(state: ExchangeState, { kind, a, b, c }: Wish): Request | null {
  const calls = Object.values(state.calls)
  const device = at(devices, b)
  switch (kind) {
    case 'offer': {
      const numbers = [...world.lines.map(line => line.number), '+441632960105', '+441632960999']
      return { service: 'offerCall', trunk: a % 2 ? 'east' : 'west', party: { number: c % 5 ? null : '+447700900555', name: '<b>x</b>\u0000' }, number: at(numbers, b) }
    }
    case 'make': return { service: 'makeCall', device, number: at(destinations, a) }
    case 'groupPickUp': return { service: 'groupPickupCall', device, group: at([null, 'operators', 'group:reservations'], a) }
    case 'disturb': return { service: 'setDoNotDisturb', device, on: a % 2 === 0, ...(c % 3 === 0 && { of: at(devices, c), until: state.time + 90_000 }) }
    case 'status': return { service: 'setStatus', device, reason: a % 2 ? null : 'break', until: c % 2 ? null : state.time + c * 3_000 }
    case 'attend': return { service: 'setAgentState', device: at(operators, b), attended: a % 4 !== 0 }
    case 'serve': return { service: 'setLineServed', device: at(operators, b), line: at(world.lines, a).id, on: c % 3 === 0, until: c % 2 ? null : state.time + 60_000 }
    case 'block': return a % 3 ? { service: 'unblockNumber', device: at(operators, b), number: '+447700900555' } : { service: 'blockNumber', device, number: '07700 900555', reason: 'a nuisance' }
    case 'unplug': return { service: 'setHandset', device, on: a % 2 === 0 }
    case 'wait': return { service: 'tick' }
    default: return calls.length > 0 ? withCall(calls, { kind, a, b, c }) : null
  }
}

function withCall(calls: Call[], { kind, a, b, c }: Wish): Request | null {
  const of = (fits: (call: Call) => boolean, ...states: Connection['state'][]) => {
    const call = fitting(calls, a, fits)
    return { call: call.id, device: who(call, b, states), all: call }
  }
  const asking = calls.filter(call => call.consultation)
  const consultation = asking.length > 0 && c % 8 !== 7 ? at(asking, a) : at(calls, c)
  const primary = consultation.consultation ?? at(calls, a).id
  const to = at(c % 4 ? devices : destinations, c)
  switch (kind) {
    case 'answer': return request('answerCall', of(call => ['waiting', 'ringing'].includes(placesOf(call)[0]!) || led(call), 'alerting'))
    case 'clear': return request('clearConnection', of(() => true, 'connected', 'alerting', 'held'))
    case 'hold': return request('holdCall', of(talked, 'connected'))
    case 'retrieve': return request('retrieveCall', of(call => call.connections.some(({ state }) => state === 'held'), 'held'))
    case 'consult': return { ...request('consultationCall', of(talked, 'connected', 'held')), number: to } as Request
    case 'complete': return { service: 'transferCall', call: primary, consultation: consultation.id, device: consultation.calling }
    case 'reconnect': return { service: 'reconnectCall', call: consultation.id, device: consultation.calling }
    case 'transfer': return { ...request('singleStepTransferCall', of(talked, 'connected', 'held')), to, note: 'wants a cabin', ...(c % 3 === 0 && { distribution: 'all' }) } as Request
    case 'deflect': return { ...request('deflectCall', of(call => !talked(call), 'alerting')), to } as Request
    case 'move': {
      const { call, all } = of(() => true)
      return { service: 'deflectCall', device: at(devices, b), call, from: at(all.connections, c).device, to }
    }
    case 'join': return { service: 'conferenceCall', call: primary, other: consultation.id, device: consultation.calling }
    case 'invite': return { ...request('singleStepConferenceCall', of(talked, 'connected')), to } as Request
    case 'drop': {
      const { call, all } = of(led)
      return { service: 'dropParty', call, device: all.conference?.by ?? at(all.connections, b).device, party: at(all.connections, c).device }
    }
    case 'endAll': {
      const { call, all } = of(led)
      return { service: 'clearCall', call, device: all.conference?.by ?? at(all.connections, b).device }
    }
    case 'park': return { ...request('parkCall', of(call => !call.parked, 'connected', 'held')), slot: at(slots, b), for: c % 2 ? at(devices, c) : null } as Request
    case 'pickUp': return { service: 'directedPickupCall', call: fitting(calls, a, call => !talked(call)).id, device: at(devices, b) }
    case 'mute': {
      const { call, device, all } = of(talked, 'connected')
      return { service: 'setMicrophoneMute', call, device: c % 3 ? device : all.conference?.by ?? device, party: at(all.connections, c).device, on: c % 2 === 0 }
    }
    case 'digits': return { ...request('generateDigits', of(talked, 'connected')), digits: at(['12#', '1,,2', 'x'], c) } as Request
    default: return null
  }
}

function request(service: 'answerCall' | 'clearConnection' | 'holdCall' | 'retrieveCall' | string, { call, device }: { call: string, device: DeviceId }): Request {
  return { service, call, device } as Request
}

function carryOut(state: ExchangeState, request: Request, now: number): { state: ExchangeState, events: NumberedEvent[], refused: boolean } {
  const decision = decide(state, request, now)
  if ('refusal' in decision) return { state, events: [], refused: true }
  const events = numbered(state, decision.events, now)
  return { state: evolveAll(state, events), events, refused: false }
}

/** The last things that happened, told when a law is broken. */
const trail: string[] = []

/** Plain and quick: laws are checked hundreds of thousands of times. */
function law(holds: unknown, words: string): void {
  if (!holds) throw new Error(`broken law: ${words}\nafter\n${trail.slice(-12).join('\n')}`)
}

/** Whoever changes an old state from now on throws. What is frozen already is passed over, so each change is frozen once. */
function freeze<T>(value: T): T {
  if (typeof value !== 'object' || value === null || Object.isFrozen(value)) return value
  Object.freeze(value)
  for (const part of Object.values(value)) freeze(part)
  return value
}

const endsByItself = (call: Call) => call.parked !== null || call.connections.some(({ state, device }) => state === 'alerting' || state === 'failed' || isMailbox(device))

function checkState(state: ExchangeState): void {
  const talkers = new Set<string>()
  const taken = new Set<string>()
  for (const call of Object.values(state.calls)) {
    const places = placesOf(call)
    law(places.length === 1, `call ${call.id} is in exactly one place, not in ${places.join(' and ') || 'none'}`)
    law(connectionOf(call, call.calling), 'the caller is in the call')
    law(new Set(call.connections.map(connection => connection.device)).size === call.connections.length, 'nobody is in a call twice')
    const watchedQueue = call.passing !== null && places[0] === 'waiting'
    law((call.deadline !== null) === (endsByItself(call) || watchedQueue), 'what rings, is parked, is watched in a queue, records or failed, and nothing else, ends by itself')
    law(call.passing === null || ['ringing', 'waiting'].includes(places[0]!), 'a call passed on rings or waits somewhere')
    law((call.parked !== null) === (places[0] === 'parked'), 'who is parked is in a slot')
    law(!call.parked || (!taken.has(call.parked.slot) && parkedIn(state, call.parked.slot) === call), 'one caller to a slot')
    if (call.parked) taken.add(call.parked.slot)
    law(operators.filter(operator => stretchOf(state, call, operator) === 'passedOn').length <= 1, 'one operator watches a call passed on')
    law(!isOrphaned(state, call), 'nobody waits where nobody serves')
    law(call.consultation === null || state.calls[call.consultation], 'who is asked about a caller is asked about one who is there')
    law(call.conference === null || call.connections.filter(({ state: its }) => its === 'connected' || its === 'held').length > 2, 'a conference is three or more')
    law(call.connections.length <= state.settings.conferenceSize || call.passing, 'a conference holds so many and no more')
    if (places[0] === 'waiting' && call.connections.some(({ device }) => device === 'operators')) {
      law(operators.some(operator => isPresent(state, operator) && serves(state, call, operator) && stretchOf(state, call, operator) !== null), 'who waits for an operator is on the console of one who is there')
    }
    for (const connection of call.connections) {
      if (connection.state !== 'connected') continue
      law(!talkers.has(connection.device) || isMailbox(connection.device), `${connection.device} talks on at most one call`)
      talkers.add(connection.device)
    }
  }
}

/** Everybody who hears somebody, as pairs. A mailbox hears whoever is sent to it. */
function hearing(call: Call): Set<string> {
  const talking = call.connections.filter(({ state, device }) => state === 'connected' && !isMailbox(device)).map(({ device }) => device).sort()
  return new Set(talking.flatMap((one, index) => talking.slice(index + 1).map(other => `${one} ${other}`)))
}

/** Nobody begins to hear anybody, and no caller goes, except by what somebody who may do so has asked for. */
function checkChange(before: ExchangeState, after: ExchangeState, request: Request): void {
  const asked = 'device' in request ? request.device : null
  const heard = new Set(Object.values(before.calls).flatMap(call => [...hearing(call)]))
  for (const call of Object.values(after.calls)) {
    if (before.calls[call.id] === call) continue
    for (const pair of hearing(call)) {
      if (heard.has(pair)) continue
      const [one, other] = pair.split(' ')
      if (one === asked || other === asked) {
        law(['answerCall', 'directedPickupCall', 'groupPickupCall', 'retrieveCall', 'reconnectCall', 'makeCall', 'conferenceCall'].includes(request.service), 'people begin to talk by answering, taking, taking back or joining')
        continue
      }
      law(request.service === 'transferCall' || request.service === 'conferenceCall', 'a third party connects two people by completing a transfer or joining a conference, and by nothing else')
      const both = [one, other].every(device => Object.values(before.calls).some(known => connectionOf(known, asked!) && connectionOf(known, device!)))
      law(both, 'only who has both on the line connects them')
    }
  }
  for (const [id, call] of Object.entries(before.calls)) {
    if (after.calls[id]) continue
    const joined = (request.service === 'transferCall' && request.consultation === id) || (request.service === 'conferenceCall' && request.other === id)
    if (joined) {
      const target = after.calls[request.call]!
      law(call.connections.every(({ device }) => connectionOf(target, device) || device === asked), 'nobody is lost when two calls become one')
      continue
    }
    const failed = call.connections.some(connection => connection.state === 'failed')
    const recorded = request.service === 'tick' && call.connections.some(({ device }) => isMailbox(device))
    const own = ['clearConnection', 'clearCall', 'reconnectCall'].includes(request.service) && 'call' in request && request.call === id ? connectionOf(call, asked!) : undefined
    law(failed || recorded || own, 'a call ends only by one of its parties, or after the tone or the message')
    const cutsOff = own && !own.party && own.state === 'held' && request.service === 'clearConnection' && call.connections.some(connection => connection !== own && connection.state === 'connected' && !isMailbox(connection.device))
    law(!cutsOff, 'nobody who hears music is cut off by who put them on hold')
  }
  const service = request.service
  if (service === 'tick' || service === 'setAgentState') law(Object.keys(before.calls).every(id => after.calls[id] || before.calls[id]!.connections.some(({ state, device }) => state === 'failed' || isMailbox(device))), 'time and absence cut nobody off')
}

/** Each consultation ends with its caller in exactly one of three places: with the colleague, in hand, or on hold and visible. */
function checkConsultations(before: ExchangeState, after: ExchangeState, request: Request): void {
  for (const call of Object.values(before.calls)) {
    if (!call.consultation || after.calls[call.id]?.consultation === call.consultation) continue
    const caller = before.calls[call.consultation]!.calling
    const primary = after.calls[call.consultation]
    if (!primary || !connectionOf(primary, caller)) continue
    const own = connectionOf(primary, call.calling)
    if (own) law(own.state === 'connected' || (own.state === 'held' && stretchOf(after, primary, call.calling) === 'inHand'), 'the caller of a consultation is in hand, or on hold and visible')
    else law(request.service !== 'reconnectCall', 'who takes a caller back has them')
  }
}

/** A seed to play a failure again: LAW_SEED=… */
const seed = process.env.LAW_SEED === undefined ? Date.now() & 0x7fffffff : Number(process.env.LAW_SEED)
const runs = Number(process.env.LAW_RUNS ?? 1_900)

describe('the laws of calls', () => {
  it('hold after every request of long random sequences', () => {
    let requests = 0
    const carried = new Map<string, number>()
    fc.assert(fc.property(fc.array(wish, { minLength: 40, maxLength: 140, size: 'max' }), (wishes) => {
      const initial = begin('law')
      let state = initial
      let now = start
      const journal: NumberedEvent[] = []
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += wanted.a * 600
        const request = requestOf(state, wanted)
        if (!request) continue
        requests++
        const result = carryOut(freeze(state), request, now)
        if (!result.refused) {
          trail.push(JSON.stringify([request, result.events]))
          carried.set(request.service, (carried.get(request.service) ?? 0) + 1)
          checkChange(state, result.state, request)
          checkConsultations(state, result.state, request)
        }
        state = result.state
        journal.push(...result.events)
        checkState(state)
      }
      expect(evolveAll(initial, JSON.parse(JSON.stringify(journal))), 'the same events give the same state').toEqual(JSON.parse(JSON.stringify(state)))
    }), { numRuns: runs, seed })
    console.log(`seed ${seed}, ${requests} requests; carried out: ${[...carried].map(([service, count]) => `${service} ${count}`).join(', ')}`)
    expect(requests).toBeGreaterThan(Math.min(100_000, runs * 50))
    for (const service of ['transferCall', 'conferenceCall', 'parkCall', 'directedPickupCall', 'deflectCall', 'reconnectCall', 'singleStepConferenceCall', 'dropParty']) {
      expect(carried.get(service), `${service} was tried in earnest`).toBeGreaterThan(20)
    }
  }, 180_000)

  it('every call comes to rest by itself once nobody acts: it waits for an operator, is talked on, or is over', () => {
    fc.assert(fc.property(fc.array(wish, { minLength: 10, maxLength: 60 }), (wishes) => {
      let state = begin('rest')
      let now = start
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += wanted.a * 600
        const request = requestOf(state, wanted)
        if (request) state = carryOut(state, request, now).state
      }
      for (let i = 0; i < 400; i++) {
        const next = nextDeadline(state)
        if (next === null) break
        now = Math.max(now, next)
        state = carryOut(state, { service: 'tick' }, now).state
        checkState(state)
      }
      expect(nextDeadline(state)).toBeNull()
      for (const call of Object.values(state.calls)) expect(['waiting', 'talking', 'onHold']).toContain(placesOf(call)[0])
    }), { numRuns: Math.ceil(runs / 4), seed })
  }, 180_000)

  it('an event about something unknown changes nothing but the number', () => {
    const state = begin('odd')
    const after = evolve(state, { type: 'held', call: 'nowhere', device: '2100', seq: 1, at: start })
    expect(after).toEqual({ ...state, seq: 1 })
  })
})
