import { phrase } from '../../words/phrase'
import { object, string } from 'yup'
import { isMemberOf, lookUp } from '../company/lookups'
import { accept, refuse } from '../calls/answers'
import type { EventKind } from '../calls/event'
import { device, type FieldsOf, idIfAny, idOf } from '../calls/fields'
import { withDevice } from '../calls/places'
import type { Service } from '../calls/service'

const states = ['serving', 'paused', 'left'] as const
const fields = () => object({
  device: device(),
  queue: idOf('queue', 'group'),
  state: string().oneOf(states).required().label('state'),
  /** Why somebody pauses: one of the reasons that the company keeps. */
  reason: string().strict().max(80).optional().label('reason'),
  of: idIfAny('of', 'device'),
})

declare module '../calls/model' {
  interface Requests { setQueueServed: FieldsOf<typeof fields> }
  interface Events {
    queueServed: AtPlace & { queue: DeviceId, state: typeof states[number], reason: string | null, by: DeviceId | null }
  }
}

/**
 * A member of a queue or group pauses with a reason, leaves it, or serves it again (also before the time after a call is over): by themselves or by an
 * operator.
 */
export const setQueueServed: Service<'setQueueServed'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, telephone, request: { queue, state: wanted, reason, of } }) {
    const group = lookUp(state.company.groups, queue)
    if (!group) return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchQueueSentence'))
    if (queue === state.company.settings.operators) return refuse('notPossibleNow', phrase('refusals.operatorsSetTheirStatusAnd'))
    const member = of === undefined ? telephone : lookUp(state.company.telephones, of)
    if (!member) return refuse('unknownDevice', phrase('refusals.thereIsNoExtensionSentence', { of: of! }))
    const forOther = member.id !== telephone.id
    if (forOther && !state.agents.get(telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsMayDoThat'))
    if (!isMemberOf(state.company, member.id, queue)) return refuse('notAllowed', phrase('refusals.isNoMemberOf', { name: member.name, name2: group.name }))
    if (wanted === 'left' && !group.voluntary.includes(member.id))
      return refuse('notPossibleNow', phrase('refusals.alwaysBelongsToPauseInstead', { name: member.name, name2: group.name }))
    const { pauseReasons } = state.company.settings
    if (wanted === 'paused' && !pauseReasons.includes(reason ?? '')) return refuse('notPossibleNow', phrase('refusals.sayWhy', {
      pauseReasons: pauseReasons.join(', '),
    }))
    const now = state.devices.get(member.id)?.absences?.[queue]
    if ((now?.state ?? 'serving') === wanted && (wanted !== 'paused' || now?.reason === reason)) return accept()
    return accept({
      type: 'queueServed', device: member.id, queue, state: wanted, reason: wanted === 'paused' ? reason! : null, by: forOther ? telephone.id : null,
    })
  },
}

export const queueServed: EventKind<'queueServed'> = {
  evolve(state, next, { device: member, queue, state: is, reason, by, at }) {
    const { [queue]: _before, ...others } = state.devices.get(member)?.absences ?? {}
    return withDevice(state, next, member, { absences: is === 'serving' ? others : { ...others, [queue]: { state: is, reason, since: at, until: null, by } } })
  },
}
