import fc from 'fast-check'
import type { CompanyChange, Part } from '../company/changes'
import { type Company, distributions } from '../company/company'
import { decide } from './decide'
import { evolveAll, numbered } from './evolve'
import type { Call, Connection, DeviceId, ExchangeState, NumberedEvent, Request } from './model'
import { mailboxOf } from './names'
import { isConversation, placesOf, queueOf } from './questions'
import { services } from './services'
import { smallHouse } from './small-house'
import { quietState } from './snapshot'

/** Random requests from everybody at once, most of them sensible: for property-based tests. */

const company = smallHouse()
/** How many of the usual random sequences are played: LAW_RUNS (usually 1,000) of 2,000. */
export const runsOf = (usual: number) => Math.ceil(usual * Number(process.env.LAW_RUNS ?? 1_000) / 2_000)
export const devices = Object.keys(company.telephones)
const numbers = Object.values(company.telephones).map(({ number }) => number)
export const operators = company.groups.operators!.members
const lines = Object.values(company.lines)
export const start = Date.UTC(2031, 4, 12, 8)
/** What opens and closes: lines, and queues. */
const opened = [...lines.map(({ id }) => id), ...Object.values(company.groups).filter(({ distribution }) => distribution === 'queue').map(({ id }) => id)]
const slots = ['slot:1', 'slot:2', 'slot:3', null]
const destinations = [
  ...devices,
  ...numbers,
  '0',
  '9',
  '601',
  'group:directors',
  'group:reservations',
  'group:nobody',
  'queue:freight',
  'queue:sailingNews',
  'queue:lostProperty',
  '07700 900123',
  '+447700900555',
  '701',
  mailboxOf('t2105'),
  mailboxOf('group:reservations'),
  mailboxOf('general'),
  'nonsense',
  '__proto__',
  '999',
  '101',
  '+449098790123',
  'zone:hall',
  'zone:stennick',
  '801',
]

export function begin(epoch: string): ExchangeState {
  return quietState(company, { epoch, now: start, attended: operators })
}

/** What somebody wants, in small numbers that are read against whatever calls and people there are. */
export interface Wish { kind: typeof kinds[number][1], a: number, b: number, c: number }

const kinds = [
  [5, 'offer'],
  [4, 'make'],
  [12, 'answer'],
  [4, 'clear'],
  [3, 'hold'],
  [5, 'retrieve'],
  [8, 'consult'],
  [5, 'complete'],
  [3, 'reconnect'],
  [6, 'transfer'],
  [3, 'deflect'],
  [3, 'move'],
  [6, 'join'],
  [4, 'invite'],
  [3, 'drop'],
  [1, 'endAll'],
  [4, 'park'],
  [6, 'pickUp'],
  [2, 'groupPickUp'],
  [2, 'mute'],
  [1, 'digits'],
  [4, 'callBack'],
  [3, 'leave'],
  [1, 'disturb'],
  [1, 'status'],
  [2, 'attend'],
  [2, 'serve'],
  [1, 'block'],
  [4, 'page'],
  [2, 'intercom'],
  [10, 'listen'],
  [4, 'record'],
  [2, 'greeting'],
  [2, 'pause'],
  [1, 'opening'],
  [2, 'turn'],
  [1, 'trunk'],
  [2, 'forward'],
  [1, 'unplug'],
  [3, 'configure'],
  [1, 'clock'],
  [5, 'wait'],
  [6, 'any'],
] as const
const nat = fc.nat({ max: 63 })
export const wish: fc.Arbitrary<Wish> = fc.record({
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
const led = (call: Call) => call.conference !== null || call.connections.some(({ invitedBy }) => invitedBy)

export function requestOf(state: ExchangeState, { kind, a, b, c }: Wish): Request | null {
  const calls = [...state.calls.values()]
  const device = at(devices, b)
  switch (kind) {
    case 'offer': {
      const numbers = [...lines.map(line => line.number), '+441632960105', '+441632960999']
      return {
        service: 'offerCall',
        trunk: a % 2 ? 'east' : 'west',
        party: { number: c % 5 ? null : '+447700900555', name: '<b>x</b>\u0000' },
        number: at(numbers, b),
      }
    }
    case 'make':
      return { service: 'makeCall', device, number: at(destinations, a) }
    case 'groupPickUp':
      return { service: 'groupPickupCall', device, group: at([null, 'operators', 'group:reservations'], a) }
    case 'disturb':
      return { service: 'setDoNotDisturb', device, on: a % 2 === 0, ...(c % 3 === 0 && { of: at(devices, c), until: state.time + 90_000 }) }
    case 'status':
      return { service: 'setStatus', device, reason: a % 2 ? null : 'break', until: c % 2 ? null : state.time + c * 3_000 }
    case 'attend':
      return { service: 'setAgentState', device: at(operators, b), attended: a % 4 !== 0 }
    case 'serve':
      if (c % 4 === 1) return { service: 'offerLine', device: at(operators, b), line: at(lines, a).id, to: at(operators, c + b) }
      if (c % 4 === 3) return { service: 'answerLineOffer', device: at(operators, b), from: at(operators, c + b), line: at(lines, a).id, yes: a % 3 > 0 }
      return { service: 'setLineServed', device: at(operators, b), line: at(lines, a).id, on: c % 3 === 0, until: c % 2 ? null : state.time + 60_000 }
    case 'page': {
      const [page] = [...state.pages.values()].slice(c % Math.max(1, state.pages.size))
      if (page && a % 3 === 1) return { service: 'speakOnPage', device: page.by, page: page.id, ...(c % 2 && { text: 'the boat is late' }) }
      if (page && a % 3 === 2) return { service: 'closePage', device: page.by, page: page.id }
      const to = at(['zone:hall', 'zone:stennick', 'zone:yard', 'group:reservations', at(devices, c), at(destinations, c)], a)
      return { service: 'openPage', device: at(operators, b), to, rank: at(['ordinary', 'ordinary', 'urgent', 'safety'] as const, c) }
    }
    case 'pause': {
      const group = at(Object.values(state.company.groups).filter(({ id }) => id !== 'operators'), a)
      const member = at(group.members.length > 0 ? group.members : devices, b)
      return { service: 'setQueueServed', device: member, queue: group.id, state: at(['paused', 'serving', 'left'] as const, c), reason: 'Break' }
    }
    case 'opening': {
      const of = at(opened, a)
      return { service: 'setOpening', device: at(operators, b), of, open: at([false, true, null], c), until: c % 5 ? null : state.time + c * 2_000 }
    }
    case 'turn': {
      const waiting = calls.filter(call => queueOf(call))
      return waiting.length > 0 ? { service: 'putInQueue', device: at(operators, b), call: at(waiting, a).id, place: at(['first', 'last'] as const, c) } : null
    }
    case 'forward': {
      const to = c % 4 ? at(c % 3 ? devices : destinations, a) : null
      const when = at(['always', 'busy', 'noAnswer'] as const, c)
      return { service: 'setForwarding', device: at(devices, b), when, to, until: c % 5 ? null : state.time + 90_000 }
    }
    case 'trunk': {
      const trunk = at(['east', 'west'], a)
      return c % 3 ? { service: 'setTrunkService', device: at(operators, b), trunk, on: c % 3 === 1 } : { service: 'reportTrunk', trunk, faulty: b % 4 }
    }
    case 'intercom':
      return { service: 'intercomCall', device: at(operators, b), number: at(c % 4 ? devices : destinations, a) }
    case 'listen': {
      const [listening] = [...state.listenings.values()].slice(c % Math.max(1, state.listenings.size))
      if (listening && a % 8 === 1) return { service: 'intrudeCall', device: listening.by, call: listening.call }
      if (listening && a % 8 === 3) return { service: 'stopListening', device: listening.by }
      if (listening && a % 2 === 0) return { service: 'whisper', device: listening.by, call: listening.call, on: b % 8 > 0 }
      const call = calls.length > 0 ? fitting(calls, a, isConversation) : undefined
      return call ? { service: 'listenIn', device: at(operators, c % 8 ? 0 : b), call: call.id, to: who(call, b, ['connected']) } : null
    }
    case 'greeting':
      return c % 3
        ? { service: 'setMailboxKey', device, digit: at(['1', '2'], b), to: c % 4 ? at(destinations, a) : null }
        : { service: 'setGreeting', device, when: at(['usual', 'lunch', 'gone'] as const, a), text: at(['', 'I am out.', 'Back on Monday.'], b) }
    case 'record': {
      const call = calls.length > 0 ? fitting(calls, a, isConversation) : undefined
      return call ? { service: c % 3 ? 'startRecording' : 'stopRecording', device: who(call, b, ['connected']), call: call.id } : null
    }
    case 'block':
      return a % 3
        ? { service: 'unblockNumber', device: at(operators, b), number: '+447700900555' }
        : { service: 'blockNumber', device, number: '07700 900555', reason: 'a nuisance' }
    case 'unplug': {
      const called = c % 5
        ? undefined
        : calls.flatMap(({ id, connections }) => connections.filter(({ party, state }) => party && state === 'alerting')
          .map(({ device }) => ({ call: id, device })))[0]
      if (called) return { service: 'reportFailed', ...called, cause: at(['busy', 'outOfService', 'trunksBusy'] as const, a) }
      return c % 3 ? { service: 'setHandset', device, on: a % 2 === 0 } : { service: 'reportTelephone', device, registered: [true, false, null][a % 3]! }
    }
    case 'configure':
      return configured(state.company, a, b)
    case 'callBack': {
      const promises = [...state.callBacks.values()]
      const promise = at(promises, a)
      if (!promise || c % 5 === 0) {
        const queue = at([undefined, 'queue:freight', 'queue:reservations', 'queue:lostProperty'], a)
        return { service: 'promiseCallBack', device: at(operators, b), number: at(['07700 900777', '07700 900555', '01632 960778'], c), ...(queue
          && { queue }) }
      }
      const device = at(c % 4 ? [...operators, ...state.company.groups[promise.queue]!.members] : devices, b)
      if (c % 5 === 1) return { service: 'assignCallBack', device, callBack: promise.id, to: b % 2 ? null : device }
      return c % 10 === 2
        ? { service: 'endCallBack', device, callBack: promise.id, word: 'a nuisance' }
        : { service: 'makeCallBack', device,
            callBack: promise.id }
    }
    case 'leave': {
      const waiting = calls.filter(call => queueOf(call) && call.connections.some(({ party }) => party))
      const call = at(waiting, a)
      return call ? { service: 'generateDigits', device: call.connections.find(({ party }) => party)!.device, call: call.id, digits: c % 4 ? '2' : '3' } : null
    }
    case 'clock':
      return { service: 'adjustClock', offset: (a - 32) * 120_000 }
    case 'wait':
      return { service: 'tick' }
    case 'any':
      return anything(state, a, b, c)
    default:
      return calls.length > 0 ? withCall(calls, { kind, a, b, c }) : null
  }
}

/** Services that are asked with fields of their own; changes of the company stand in a word of their own above. */
const named = (Object.keys(services) as (keyof typeof services)[]).filter(service => service !== 'configure')

/**
 * A request for a service, made from the schema of its fields: whatever service there is, it is tried.
 * @param choose what a field is to hold; undefined leaves out what may be left out
 */
export function requestWith(service: keyof typeof services, choose: (name: string, field: FieldDescription) => unknown): Request {
  const { fields } = services[service].fields().describe() as unknown as { fields: Record<string, FieldDescription> }
  const values = Object.entries(fields).map(([name, field]) => [name, choose(name, field)] as const)
  return { service, ...Object.fromEntries(values.filter(([, value]) => value !== undefined)) } as Request
}

export interface FieldDescription { type: string, oneOf?: unknown[], optional: boolean, nullable: boolean, meta?: { names?: string } }

/** Any service, of anything that there is or is not; mostly by somebody who is in the call. */
function anything(state: ExchangeState, a: number, b: number, c: number): Request {
  const calls = [...state.calls.values()]
  const call = c % 8 === 7 ? undefined : calls[b % Math.max(1, calls.length)]
  const inIt = call?.connections.map(connection => connection.device) ?? []
  const choices: Record<string, readonly unknown[]> = {
    device: c % 4 && inIt.length > 0 ? inIt : devices, call: [call?.id ?? 'nowhere'], destination: destinations, slot: slots, line: lines.map(line => line.id),
    group: Object.keys(state.company.groups), opening: opened,
    trunk: Object.keys(state.company.trunks), callBack: state.callBacks.size > 0 ? [...state.callBacks.keys()] : ['nothing'], page: state.pages.size > 0
      ? [...state.pages.keys()]
      : ['nowhere'], note: calls.map(({ id }) => id),
  }
  let turn = 0
  return requestWith(at(named, a), (name, { type, oneOf, optional, nullable, meta }) => {
    const index = b + c * 7 + turn++ * 13
    if ((optional && index % 3 === 0) || (nullable && index % 5 === 0)) return optional ? undefined : null
    if (meta?.names) return index % 11 === 10 ? 'nothing' : at(choices[meta.names]!, index) ?? 'nothing'
    if (oneOf && oneOf.length > 0) return at(oneOf, index)
    if (name === 'greetings' || name === 'keys') return {}
    if (type === 'boolean') return index % 2 === 0
    if (type === 'number') return name === 'until' ? state.time + index * 1_000 : (index - 200) * 1_000
    return name === 'party'
      ? { number: '+447700900555', name: '<b>x</b>' }
      : at(['a nuisance', '12#', 'a nuisance', '+441632960000', 'a nuisance', 'east', '\uD800 \u0000'], index)
  })
}

/** Where rules may lead. */
const ends = [...Object.keys(company.groups), 't2104', '+447700900321', mailboxOf('general'), mailboxOf('group:reservations')]

/** An administrator changes something, or puts back what was changed before. */
function configured(now: Company, a: number, b: number): Request {
  const id = at(devices, b)
  const telephone = now.telephones[id]
  const group = at(Object.values(now.groups), b)
  const line = now.lines[at(lines, b).id] ?? at(lines, b)
  const back = <P extends Part>(part: P, one: string): CompanyChange => ({ part, id: one, value: now[part][one] ? null : company[part][one]! }) as CompanyChange
  const changes: CompanyChange[] = [
    ...(telephone ? [{ part: 'telephones' as const, id, value: { ...telephone, name: `${telephone.name}!`.slice(0, 60) } }] : []),
    ...(telephone ? [{ part: 'telephones' as const, id, value: { ...telephone, number: String(3_000 + a * 20 + (b % 20)) } }] : []),
    ...(telephone ? [{ part: 'telephones' as const, id, value: { ...telephone, inService: !telephone.inService } }] : []),
    {
      part: 'groups',
      id: group.id,
      value: {
        ...group,
        members: group.members.length > 1 && a % 2 ? group.members.slice(1) : company.groups[group.id]!.members.filter(member => now.telephones[member]),
      },
    },
    // A queue becomes a group that rings, and the other way round.
    { part: 'groups', id: group.id, value: { ...group, distribution: at(distributions, a + b) } },
    { part: 'groups', id: group.id, value: { ...group, overflow: { ...group.overflow, to: at(ends, a + b) } } },
    { part: 'lines', id: line.id, value: { ...line, target: at(ends, a + b), night: at(ends, a) } },
    back('lines', line.id),
    back('slots', at(['slot:1', 'slot:2'], b)),
    back('hours', 'market'),
    back('shortNumbers', '112'),
    { part: 'settings', value: { ...now.settings, noAnswer: 10_000 + b * 1_000 } },
  ]
  // Somebody leaves the company: out of their groups, and their telephone goes; or they come back.
  const leaves = [
    ...Object.values(now.groups)
      .filter(({ members }) => members.includes(id))
      .map(left => ({ part: 'groups' as const, id: left.id, value: { ...left, members: left.members.filter(member => member !== id) } })),
    back('telephones', id),
  ]
  return { service: 'configure', from: now.version, version: now.version + 1, changes: a % 4 === 3 ? leaves : [at(changes, a)] }
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
    case 'answer':
      return request(
        'answerCall',
        of(call => ['waiting', 'ringing'].includes(placesOf(call)[0]!) || led(call), 'alerting'),
      )
    case 'clear':
      return request(
        'clearConnection',
        of(() => true, 'connected', 'alerting', 'held'),
      )
    case 'hold':
      return request('holdCall', of(talked, 'connected'))
    case 'retrieve':
      return request(
        'retrieveCall',
        of(call => call.connections.some(({ state }) => state === 'held'), 'held'),
      )
    case 'consult':
      return { ...request('consultationCall', of(talked, 'connected', 'held')), number: to } as Request
    case 'complete':
      return { service: 'transferCall', call: primary, consultation: consultation.id, device: consultation.calling }
    case 'reconnect':
      return { service: 'reconnectCall', call: consultation.id, device: consultation.calling }
    case 'transfer':
      return {
        ...request('singleStepTransferCall', of(talked, 'connected', 'held')),
        to,
        note: 'wants a cabin',
        ...(c % 3 === 0 && { distribution: 'all' }),
      } as Request
    case 'deflect':
      return {
        ...request(
          'deflectCall',
          of(call => !talked(call), 'alerting'),
        ),
        to,
      } as Request
    case 'move': {
      const { call, all } = of(() => true)
      return { service: 'deflectCall', device: at(devices, b), call, from: at(all.connections, c).device, to }
    }
    case 'join':
      return { service: 'conferenceCall', call: primary, other: consultation.id, device: consultation.calling }
    case 'invite':
      return { ...request('singleStepConferenceCall', of(talked, 'connected')), to } as Request
    case 'drop': {
      const { call, all } = of(led)
      return { service: 'dropParty', call, device: all.conference?.by ?? at(all.connections, b).device, party: at(all.connections, c).device }
    }
    case 'endAll': {
      const { call, all } = of(led)
      return { service: 'clearCall', call, device: all.conference?.by ?? at(all.connections, b).device }
    }
    case 'park':
      return {
        ...request(
          'parkCall',
          of(call => !call.parked, 'connected', 'held'),
        ),
        slot: at(slots, b),
        for: c % 2 ? at(devices, c) : null,
      } as Request
    case 'pickUp':
      return { service: 'directedPickupCall', call: fitting(calls, a, call => !talked(call)).id, device: at(devices, b) }
    case 'mute': {
      const { call, device, all } = of(talked, 'connected')
      return {
        service: 'setMicrophoneMute',
        call,
        device: c % 3 ? device : (all.conference?.by ?? device),
        party: at(all.connections, c).device,
        on: c % 2 === 0,
      }
    }
    case 'digits':
      return { ...request('generateDigits', of(talked, 'connected')), digits: at(['12#', '1', '2', 'x'], c) } as Request
    default:
      return null
  }
}

function request(
  service: 'answerCall' | 'clearConnection' | 'holdCall' | 'retrieveCall' | string,
  { call, device }: { call: string, device: DeviceId },
): Request {
  return { service, call, device } as Request
}

/** Carries a request out; what is refused changes nothing. */
export function carryOut(state: ExchangeState, request: Request, now: number): { state: ExchangeState, events: NumberedEvent[], refused: boolean } {
  const decision = decide(state, request, now)
  if ('refusal' in decision) return { state, events: [], refused: true }
  const events = numbered(state, decision.events, now)
  return { state: evolveAll(state, events), events, refused: false }
}

/** How far a wish to wait moves time on, in milliseconds: mostly a moment, now and then long enough for every timer. */
export function waitOf({ a, c }: Wish): number {
  return a * 600 * (c % 8 === 7 ? 60 : 1)
}
