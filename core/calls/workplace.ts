import { changedCompany } from '../company/changes'
import { faultsOf } from '../company/check'
import type { Telephone } from '../company/company'
import { lineWithNumber, lookUp } from '../company/lookups'
import { formatNumber, readCaller, readDialled } from '../numbers/dialled'
import { accept, refuse } from './answers'
import type { Decision, ExchangeState, Request } from './model'
import { plainText } from './text'

const longestReason = 80

type Ask<S extends Request['service']> = Extract<Request, { service: S }>

/** What people set at their place: do not disturb, lines served, blocked numbers; and whether anybody is there. */

/** Do not disturb for oneself, or by an operator on behalf of a colleague, whose telephone says who set it and until when. */
export function setDoNotDisturb(state: ExchangeState, device: Telephone, { on, of, until }: Ask<'setDoNotDisturb'>): Decision {
  const target = of === undefined ? device : lookUp(state.company.telephones, of)
  if (!target) return refuse('unknownDevice', `There is no extension ${of}.`)
  const forOther = target.id !== device.id
  if (forOther && !state.agents.get(device.id)) return refuse('notAllowed', 'Only operators may set do not disturb for somebody else.')
  return accept({ type: 'doNotDisturb', device: target.id, on, by: on && forOther ? device.id : null, until: on ? until ?? null : null })
}

/** The console of an operator opens or closes; whoever closes it is counted as there for a moment longer. */
export function setAgentState(state: ExchangeState, device: Telephone, attended: boolean, now: number): Decision {
  const agent = state.agents.get(device.id)
  if (!agent) return refuse('notAllowed', `${device.name} is not an operator.`)
  if (!attended && !agent.attended) return accept()
  return accept({ type: 'agentStateChanged', device: device.id, attended, leavesAt: attended ? null : now + state.company.settings.absence })
}

export function setLineServed(state: ExchangeState, device: Telephone, { line, on, until }: Ask<'setLineServed'>): Decision {
  if (!state.agents.get(device.id)) return refuse('notAllowed', 'Only operators serve lines.')
  if (!lookUp(state.company.lines, line)) return refuse('unallocatedNumber', 'There is no such line.')
  return accept({ type: 'lineServed', device: device.id, line, on, until: on ? null : until })
}

export function blockNumber(state: ExchangeState, device: Telephone, { number, reason }: Ask<'blockNumber'>): Decision {
  const dialled = readDialled(number)
  if (dialled.kind !== 'outside') return refuse('invalidNumber', dialled.kind === 'invalid' ? dialled.why : 'Only outside numbers can be blocked.')
  const why = plainText(reason, longestReason)
  if (!why) return refuse('notPossibleNow', 'Say why the number is blocked, so that others understand it later.')
  if (!state.agents.get(device.id)) return refuse('notAllowed', 'Only operators may block numbers.')
  if (lineWithNumber(state.company, dialled.e164)) return refuse('notPossibleNow', 'That is a number of ours.')
  return accept({ type: 'numberBlocked', device: device.id, number: dialled.e164, reason: why })
}

export function unblockNumber(state: ExchangeState, device: Telephone, spelled: string): Decision {
  if (!state.agents.get(device.id)) return refuse('notAllowed', 'Only operators may lift a block.')
  const number = readCaller(spelled)
  if (!state.blocked.get(number)) return refuse('notPossibleNow', `${formatNumber(number)} is not blocked.`)
  return accept({ type: 'numberUnblocked', device: device.id, number })
}

/** Takes over what has changed in the company. The same version again changes nothing; one that does not follow on what is known is refused. */
export function configure(state: ExchangeState, { from, version, changes }: Ask<'configure'>): Decision {
  const known = state.company.version
  if (version <= known) return accept()
  if (from !== known) return refuse('notPossibleNow', `These changes follow on version ${from} of the configuration, and the exchange has version ${known}.`)
  const [fault] = faultsOf(changedCompany(state.company, version, changes))
  return fault ? refuse('notPossibleNow', `The configuration was not taken over. ${fault}`) : accept({ type: 'configured', version, changes })
}

export function dismissNote(state: ExchangeState, device: Telephone, note: string): Decision {
  if (!state.outlived.some(known => known.call === note && known.for === device.id)) return refuse('notPossibleNow', 'That note is gone already.')
  return accept({ type: 'noteDismissed', device: device.id, note })
}
