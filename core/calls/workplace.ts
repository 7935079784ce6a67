import { formatNumber, readCaller, readDialled } from '../numbers/dialled'
import { accept, refuse } from './answers'
import type { CallEvent, Decision, Device, ExchangeState, Request } from './model'
import { lookUp } from './questions'
import { plainText } from './text'

const longestReason = 80

type Ask<S extends Request['service']> = Extract<Request, { service: S }>

/** What people set at their place: do not disturb, lines served, blocked numbers; and whether anybody is there. */

/** Do not disturb for oneself, or by an operator on behalf of a colleague, whose telephone says who set it and until when. */
export function setDoNotDisturb(state: ExchangeState, device: Device, { on, of, until }: Ask<'setDoNotDisturb'>): Decision {
  const target = of === undefined ? device : lookUp(state.devices, of)
  if (!target) return refuse('unknownDevice', `There is no extension ${of}.`)
  const forOther = target.id !== device.id
  if (forOther && !state.agents[device.id]) return refuse('notAllowed', 'Only operators may set do not disturb for somebody else.')
  return accept({ type: 'doNotDisturb', device: target.id, on, by: on && forOther ? device.id : null, until: on ? until ?? null : null })
}

/** The console of an operator opens or closes; whoever closes it is counted as there for a moment longer. */
export function setAgentState(state: ExchangeState, device: Device, attended: boolean, now: number): Decision {
  const agent = state.agents[device.id]
  if (!agent) return refuse('notAllowed', `${device.name} is not an operator.`)
  if (!attended && !agent.attended) return accept()
  return accept({ type: 'agentStateChanged', device: device.id, attended, leavesAt: attended ? null : now + state.settings.absence })
}

export function setLineServed(state: ExchangeState, device: Device, { line, on, until }: Ask<'setLineServed'>): Decision {
  if (!state.agents[device.id]) return refuse('notAllowed', 'Only operators serve lines.')
  if (!lookUp(state.lines, line)) return refuse('unallocatedNumber', 'There is no such line.')
  return accept({ type: 'lineServed', device: device.id, line, on, until: on ? null : until })
}

export function blockNumber(state: ExchangeState, device: Device, { number, reason }: Ask<'blockNumber'>): Decision {
  const dialled = readDialled(number)
  if (dialled.kind !== 'outside') return refuse('invalidNumber', dialled.kind === 'invalid' ? dialled.why : 'Only outside numbers can be blocked.')
  const why = plainText(reason, longestReason)
  if (!why) return refuse('notPossibleNow', 'Say why the number is blocked, so that others understand it later.')
  if (!state.agents[device.id]) return refuse('notAllowed', 'Only operators may block numbers.')
  if (Object.values(state.lines).some(line => line.number === dialled.e164)) return refuse('notPossibleNow', 'That is a number of ours.')
  return accept({ type: 'numberBlocked', device: device.id, number: dialled.e164, reason: why })
}

export function unblockNumber(state: ExchangeState, device: Device, spelled: string): Decision {
  if (!state.agents[device.id]) return refuse('notAllowed', 'Only operators may lift a block.')
  const number = readCaller(spelled)
  if (!lookUp(state.blocked, number)) return refuse('notPossibleNow', `${formatNumber(number)} is not blocked.`)
  return accept({ type: 'numberUnblocked', device: device.id, number })
}

/** What has come to its time at people's places, by the clock that they read: status, do not disturb, lines not served. */
export function placesDue(state: ExchangeState, now: number): CallEvent[] {
  const due = (at: number | null) => at !== null && at <= now + state.clockOffset
  const devices = Object.values(state.devices)
  return [
    ...devices.filter(({ status }) => due(status.until)).map(({ id }): CallEvent => ({ type: 'statusChanged', device: id, reason: null, until: null })),
    ...devices.filter(device => due(device.doNotDisturbUntil)).map(({ id }): CallEvent => ({ type: 'doNotDisturb', device: id, on: false, by: null, until: null })),
    ...Object.entries(state.agents).flatMap(([device, { unserved }]) => Object.entries(unserved)
      .filter(([, until]) => due(until)).map(([line]): CallEvent => ({ type: 'lineServed', device, line, on: true, until: null }))),
  ]
}

/** Who has gone from their place for good. What becomes of their callers is seen to with everybody who is on hold with nobody. */
export function operatorsGone(state: ExchangeState, now: number): CallEvent[] {
  return Object.entries(state.agents)
    .filter(([, { leavesAt }]) => leavesAt !== null && leavesAt <= now)
    .map(([device]): CallEvent => ({ type: 'agentStateChanged', device, attended: false, leavesAt: null }))
}

export function dismissNote(state: ExchangeState, device: Device, note: string): Decision {
  if (!state.outlived.some(known => known.call === note && known.for === device.id)) return refuse('notPossibleNow', 'That note is gone already.')
  return accept({ type: 'noteDismissed', device: device.id, note })
}
