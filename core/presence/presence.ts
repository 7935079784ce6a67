import type { AwayReason, Call, Connection, DeviceId, ExchangeState, Party } from '../calls/model'
import { callsOf, isConnected, othersOf } from '../calls/questions'
import { lookUp, ownerOfMobile, telephonesOf } from '../company/lookups'

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
  /** On which of their owner's telephones the call is, when it is not on this one. */
  on: DeviceId | 'mobile' | null
  /** Where calls go, as it was named. */
  to: string | null
  /** Where their calendar says that they are; empty where it does not say. */
  place: string
}

/** What somebody's calendar says of this moment. `until`: when they are free again, a time that people read. */
export interface Engaged { until: number, place: string }

const idle = { since: null, until: null, reason: null, peer: null, way: null, on: null, to: null, place: '' } as const

/** Of somebody who has no telephone. */
export const noTelephone: Presence = { ...idle, kind: 'disconnected', lit: false }

/** A connection of somebody's, in its call. */
interface Engagement { call: Call, own: Connection, on: Presence['on'] }

/** What mobiles of ours are doing, by the telephones of their owners. */
export type OnMobiles = ReadonlyMap<DeviceId, { call: Call, own: Connection }>

/** Those that are in a call of ours: they ring along, were dialled, or call us. */
export function onMobilesIn({ company, calls }: ExchangeState): OnMobiles {
  const found = new Map<DeviceId, { call: Call, own: Connection }>()
  for (const call of calls.values()) {
    for (const own of call.connections) {
      const owner = lookUp(company.telephones, own.along ?? '')?.person ?? ownerOfMobile(company, own.party?.number ?? '')
      for (const { id } of owner ? telephonesOf(company, owner) : [])
        if (weight[own.state] > weight[found.get(id)?.own.state ?? 'queued']) found.set(id, { call, own })
    }
  }
  return found
}

/** What is known beside the telephone: that a calendar takes this moment, and what their mobile is doing. */
interface Beside { engaged?: Engaged, onMobile?: { call: Call, own: Connection } }

/**
 * The presence of whoever a telephone belongs to, as far as that telephone tells it. Calls outweigh words: who talks is shown talking even with do not
 * disturb on, also when they talk on another telephone of theirs, or on their mobile.
 */
export function presenceOf(state: ExchangeState, id: DeviceId, { engaged, onMobile }: Beside = {}): Presence {
  const device = state.devices.get(id)
  const telephone = state.company.telephones[id]
  if (!device || !telephone || !isConnected(state, id)) return noTelephone
  const others = telephone.person === null ? [] : telephonesOf(state.company, telephone.person).filter(other => other.id !== id)
  const busiest = busiestOf([
    ...engagementsOf(state, id, null),
    ...others.flatMap(other => engagementsOf(state, other.id, other.id)),
    ...onMobile ? [{ ...onMobile, on: 'mobile' as const }] : [],
  ])
  if (busiest) return onCall(busiest)
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
  return a.kind === b.kind && a.since === b.since && a.until === b.until && a.reason === b.reason && a.way === b.way && a.on === b.on && a.to === b.to
    && a.place === b.place && a.peer?.device === b.peer?.device
}

const weight: Record<Connection['state'], number> = { connected: 3, alerting: 2, held: 1, queued: 0 }

function engagementsOf(state: ExchangeState, id: DeviceId, on: Presence['on']): Engagement[] {
  return callsOf(state, id).map(call => ({ call, own: call.connections.find(connection => connection.device === id)!, on }))
}

/** Of equals the first. */
function busiestOf(all: readonly Engagement[]): Engagement | undefined {
  return all.reduce<Engagement | undefined>((best, one) => !best || weight[one.own.state] > weight[best.own.state] ? one : best, undefined)
}

function onCall({ call, own, on }: Engagement): Presence {
  const other = othersOf(call, own.device)[0]
  return {
    ...idle,
    kind: callKind(own, other),
    lit: false,
    since: own.since,
    peer: other ? { device: other.device, party: other.party ?? null } : call.failed ? { device: call.failed.device, party: null } : null,
    way: call.calling === own.device ? 'out' : 'in',
    on,
  }
}

function callKind(own: Connection, other: Connection | undefined): PresenceKind {
  if (own.state === 'alerting') return 'ringing'
  if (own.state === 'held') return 'holding'
  return other && (other.state === 'connected' || other.state === 'held') ? 'talking' : 'calling'
}
