import type { AwayReason, Call, Connection, DeviceId, ExchangeState, Party } from '../calls/model'
import { callsOf, othersOf } from '../calls/questions'

/**
 * What everybody may see of a person's telephone.
 * `free`; `calling`: waits for an answer; `ringing`; `talking`; `holding`: has somebody on hold and talks to nobody;
 * `forwarded`: calls go elsewhere; `doNotDisturb`; `away`: said so themselves; `engaged`: their calendar says so; `disconnected`: no telephone there.
 * Of several the first that holds counts: no telephone, calls, forwarding, do not disturb, a status, the calendar, free.
 */
export type PresenceKind = 'free' | 'calling' | 'ringing' | 'talking' | 'holding' | 'forwarded' | 'doNotDisturb' | 'away' | 'engaged' | 'disconnected'

export interface Presence {
  kind: PresenceKind
  /** Lit: a call put through now would ring beside somebody who can take it. */
  lit: boolean
  since: number | null
  until: number | null
  reason: AwayReason | null
  /** With whom, when there is a call; `way` is seen from this device. */
  peer: { device: DeviceId, party: Party | null } | null
  way: 'in' | 'out' | null
  /** Where calls go, as it was named. */
  to: string | null
  /** Where their calendar says that they are; empty where it does not say. */
  place: string
}

/** What somebody's calendar says of this moment. `until`: when they are free again, a time that people read. */
export interface Engaged { until: number, place: string }

const idle = { since: null, until: null, reason: null, peer: null, way: null, to: null, place: '' } as const

/** Of somebody who has no telephone. */
export const noTelephone: Presence = { ...idle, kind: 'disconnected', lit: false }

/** The presence of one device. Calls outweigh words: who talks is shown talking even with do not disturb on. */
export function presenceOf(state: ExchangeState, id: DeviceId, engaged: Engaged | null = null): Presence {
  const device = state.devices.get(id)
  if (!device || !state.company.telephones[id]?.inService) return noTelephone
  const busiest = busiestConnection(callsOf(state, id), id)
  if (busiest) return onCall(busiest.call, busiest.own)
  const forward = device.forwarding?.always
  if (forward) return { ...idle, kind: 'forwarded', lit: false, until: forward.until, to: forward.to }
  if (device.doNotDisturb) return { ...idle, kind: 'doNotDisturb', lit: false }
  const { reason, since, until } = device.status
  if (reason) return { ...idle, kind: 'away', lit: false, reason, since, until }
  if (engaged) return { ...idle, kind: 'engaged', lit: false, until: engaged.until, place: engaged.place }
  return { ...idle, kind: 'free', lit: true }
}

/** True when two presences would be shown the same way. */
export function samePresence(a: Presence, b: Presence): boolean {
  return a.kind === b.kind && a.since === b.since && a.until === b.until && a.reason === b.reason && a.way === b.way && a.to === b.to && a.place === b.place
    && a.peer?.device === b.peer?.device
}

const weight: Record<Connection['state'], number> = { connected: 3, alerting: 2, held: 1, queued: 0 }

function busiestConnection(calls: Call[], id: DeviceId): { call: Call, own: Connection } | null {
  let best: { call: Call, own: Connection } | null = null
  for (const call of calls) {
    const own = call.connections.find(connection => connection.device === id)!
    if (!best || weight[own.state] > weight[best.own.state]) best = { call, own }
  }
  return best
}

function onCall(call: Call, own: Connection): Presence {
  const other = othersOf(call, own.device)[0]
  return {
    ...idle,
    kind: callKind(own, other),
    lit: false,
    since: own.since,
    peer: other ? { device: other.device, party: other.party ?? null } : call.failed ? { device: call.failed.device, party: null } : null,
    way: call.calling === own.device ? 'out' : 'in',
  }
}

function callKind(own: Connection, other: Connection | undefined): PresenceKind {
  if (own.state === 'alerting') return 'ringing'
  if (own.state === 'held') return 'holding'
  return other && (other.state === 'connected' || other.state === 'held') ? 'talking' : 'calling'
}
