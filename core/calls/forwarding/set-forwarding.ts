import { phrase, type Spoken } from '../../../words/phrase'
import { number, object, string } from 'yup'
import { lookUp } from '../../company/lookups'
import { accept, nameOf, refuse } from '../answers'
import type { EventKind } from '../event'
import { destination, device, type FieldsOf, idIfAny, until } from '../fields'
import { forwardKinds, leadsBack } from './forwarding'
import { retimeCall } from '../indexes'
import { withDevice } from '../places'
import type { Service } from '../service'
import { lastingTarget } from '../targets'
import { concealed } from '../../numbers/dialled'
import type { Device, DeviceId, ExchangeState } from '../model'

const mostRings = 12

const fields = () => object({
  device: device(),
  when: string().oneOf(forwardKinds).required().label('when'),
  /** null: calls ring here again. */
  to: destination('to').nullable().defined(),
  until: until().optional(),
  /** Of `noAnswer`: after so many rings. */
  rings: number().strict().integer().min(1).max(mostRings).optional().label('rings'),
  of: idIfAny('of', 'device'),
})

declare module '../model' {
  interface Requests { setForwarding: FieldsOf<typeof fields> }
  interface Events {
    /** `rings`: null where it is not for calls that nobody answers. */
    forwardingChanged: AtPlace & { when: ForwardKind, to: string | null, by: DeviceId | null, until: number | null, rings: number | null }
  }
}

/** Calls of a telephone go elsewhere: always, while it is busy, or when nobody answers; set by its owner, or by an operator on their behalf. */
export const setForwarding: Service<'setForwarding'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, now, request: { when, to, until, rings, of } }) {
    const own = of === undefined ? telephone : lookUp(state.company.telephones, of)
    if (!own) return refuse('unknownDevice', phrase('refusals.thereIsNoExtensionSentence', { of: of! }))
    const forOther = own.id !== telephone.id
    if (forOther && !state.agents.get(telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsMayForwardSomebody'))
    const changed = { type: 'forwardingChanged', device: own.id, when } as const
    if (to === null) return state.devices.get(own.id)?.forwarding?.[when] ? accept({ ...changed, to, by: null, until: null, rings: null }) : accept()
    if (state.agents.get(own.id) && when === 'always')
      return refuse('notPossibleNow', phrase('refusals.anOperatorsCallsWaitFor'))
    if (until != null && until <= now + state.clockOffset) return refuse('notPossibleNow', phrase('refusals.thatTimeIsOverAlready'))
    const target = lastingTarget(state, to)
    if ('refusal' in target) return target
    if (target.id === own.id) return refuse('toSelf', phrase('refusals.cantForwardToThatSame', { name: own.name }))
    const back = leadsBack(state, own.id, target.id)
    if (back) return refuse('notPossibleNow', phrase('refusals.thatWouldTurnInA', { back: circle(state, back) }))
    return accept({
      ...changed, to, by: forOther ? telephone.id : null, until: until ?? null,
      rings: when === 'noAnswer' ? rings ?? Math.round(state.company.settings.transferRecall / state.company.settings.ringCycle) : null,
    })
  },
}

/** "Marit Varrow forwards to Lucian Blackwater forwards to Piet Lanthorn". */
function circle(state: ExchangeState, ids: readonly DeviceId[]): Spoken {
  const [last, ...before] = ids.map(id => nameOf(state, id)).reverse()
  return before.reduce<Spoken>((then, name) => phrase('names.forwardsTo', { name, then }), last ?? '')
}

export const forwardingChanged: EventKind<'forwardingChanged'> = {
  evolve(state, next, { device: place, when, to, by, until, rings, at }) {
    const { [when]: _before, ...others } = state.devices.get(place)?.forwarding ?? {}
    const after = withDevice(state, next, place, { forwarding: to === null ? others : { ...others, [when]: { to, by, until, rings, since: at } } })
    // How long it rings here depends on it.
    if (after.devices !== state.devices) for (const call of state.indexes.callsAt.get(place) ?? []) retimeCall(after, call)
    return after
  },
  // Where somebody's own number leads is no business of who sees no callers.
  redact: event => ({ ...event, to: event.to === null ? null : concealed(event.to) }),
  redactState: state => ({
    ...state, devices: state.devices.map(device => device.forwarding ? { ...device, forwarding: redacted(device.forwarding) } : device),
  }),
}

function redacted(forwarding: NonNullable<Device['forwarding']>): Device['forwarding'] {
  return Object.fromEntries(Object.entries(forwarding).map(([when, forward]) => [when, { ...forward, to: concealed(forward.to) }]))
}

/** A call is sent on by the telephone that it was for: told in its story. */
export const forwarded: EventKind<'forwarded'> = {
  change: (call, { device: place }) => ({ ...call, forwardedBy: [...call.forwardedBy ?? [], place] }),
  step: ({ to }) => ({ to }),
}
