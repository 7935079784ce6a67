import type { Call, CallId, DeviceId, ExchangeState, Request } from '../../core/calls/model'
import { callsOf, connectionOf } from '../../core/calls/questions'

/** What a telephone does by what is dialled at it. Forwarding and do not disturb by the codes of ETS 300 738; the rest stands in docs/telephones.md. */

const forwardKinds = { 21: 'always', 61: 'noAnswer', 67: 'busy' } as const

/** A call that is begun; something that is done, after which the telephone hangs up; or null: nothing of ours. */
export type Dialled = { begins: Request } | { does: Request } | null

/** @param digits as dialled, from the user part of a URI */
export function dialled(state: ExchangeState, device: DeviceId, digits: string): Dialled {
  const [, on, code, , number] = /^([*#])(\d\d)(\*([^*#]+))?#?$/.exec(digits) ?? []
  if (!code) return /^[*#](?!31#)/.test(digits) ? null : { begins: { service: 'makeCall', device, number: digits } }
  const forward = forwardKinds[code as unknown as keyof typeof forwardKinds]
  if (forward) {
    if (on === '*' && !number) return null
    return { does: { service: 'setForwarding', device, when: forward, to: on === '*' ? number! : null } }
  }
  switch (`${on}${code}`) {
    case '*26': return number ? null : { does: { service: 'setDoNotDisturb', device, on: true } }
    case '#26': return number ? null : { does: { service: 'setDoNotDisturb', device, on: false } }
    case '*11': return { begins: number ? pickUpAt(state, device, number) : { service: 'groupPickupCall', device, group: null } }
    case '*12': {
      const call = heldBy(state, device)
      const slot = number ? slotOf(state, number) : null
      return call && slot !== undefined ? { does: { service: 'parkCall', device, call, slot, for: null } } : null
    }
    case '*13': case '#13': {
      const queue = Object.values(state.company.groups).find(group => group.number === number)?.id
      return queue ? { does: { service: 'setQueueServed', device, queue, state: on === '*' ? 'paused' : 'serving' } } : null
    }
    default: return null
  }
}

/** The park slot that a number names; undefined: none. */
export function slotOf(state: ExchangeState, number: string): DeviceId | undefined {
  return Object.values(state.company.slots).find(slot => slot.number === number)?.id
}

function telephoneAt(state: ExchangeState, number: string): DeviceId | undefined {
  return Object.values(state.company.telephones).find(telephone => telephone.number === number)?.id
}

function pickUpAt(state: ExchangeState, device: DeviceId, number: string): Request {
  const there = telephoneAt(state, number) ?? ''
  const call = callsOf(state, there).find(one => connectionOf(one, there)?.state === 'alerting')
  return { service: 'directedPickupCall', device, call: call?.id ?? '' }
}

/** The caller whom a telephone has put on hold last. */
function heldBy(state: ExchangeState, device: DeviceId): CallId | undefined {
  const held = callsOf(state, device).filter(call => connectionOf(call, device)?.state === 'held')
  const since = (call: Call) => connectionOf(call, device)!.since
  return held.sort((a, b) => since(b) - since(a))[0]?.id
}

/** Who is seen at a lamp that a telephone asks for by number: a telephone or a park slot. */
export function lampOf(state: ExchangeState, number: string): DeviceId | undefined {
  return telephoneAt(state, number) ?? slotOf(state, number)
}
