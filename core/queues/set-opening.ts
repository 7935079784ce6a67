import { phrase } from '../../words/phrase'
import { boolean, object } from 'yup'
import { lookUp } from '../company/lookups'
import { accept, refuse } from '../calls/answers'
import { concealed } from '../numbers/dialled'
import type { EventKind } from '../calls/event'
import { destination, device, type FieldsOf, idOf, until } from '../calls/fields'
import { reindexOpening } from '../calls/indexes'
import { byItsHours, hoursOf } from './openings'
import type { Service } from '../calls/service'
import { lastingTarget } from '../calls/targets'

const fields = () => object({
  device: device(),
  of: idOf('of', 'opening'),
  /** null: as its hours say. */
  open: boolean().strict().nullable().defined().label('open'),
  until: until().defined(),
  /** Where callers go while it is closed; without it, where they always go when it is closed. */
  to: destination('to').optional(),
})

declare module '../calls/model' {
  interface Requests { setOpening: FieldsOf<typeof fields> }
  interface Events {
    /** `wall`: when, as people read it. */
    openingChanged: { of: LineId | DeviceId, open: boolean, by: DeviceId | null, until: number | null, to: string | null, wall: number }
  }
}

/** An operator opens or closes a line or a queue, for a while or until further notice, or leaves it to its hours again. Nobody who talks is cut off. */
export const setOpening: Service<'setOpening'> = {
  fields,
  askedBy: ['console'],
  decide({ state, telephone, request: { of, open, until, to }, now }) {
    if (!state.agents.get(telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsOpenAndClose'))
    const line = lookUp(state.company.lines, of)
    if (!line && lookUp(state.company.groups, of)?.distribution !== 'queue') return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchLineOr'))
    if (of === state.company.settings.operators)
      return refuse('notPossibleNow', phrase('refusals.theOperatorsOwnQueueIs'))
    const wall = now + state.clockOffset
    if (open !== null && until !== null && until <= wall) return refuse('notPossibleNow', phrase('refusals.thatTimeIsOverAlready'))
    if (open === null) return accept(byItsHours(state, of, now))
    const target = open || to === undefined ? null : lastingTarget(state, to)
    if (target && 'refusal' in target) return target
    return accept({ type: 'openingChanged', of, open, by: telephone.id, until, to: target ? to! : null, wall })
  },
}

export const openingChanged: EventKind<'openingChanged'> = {
  evolve(state, next, { of, open, by, until, to, wall, at }) {
    const openings = open && by === null && hoursOf(state, of) === null
      ? state.openings.delete(of)
      : state.openings.set(of, { open, by, since: at, at: wall, until, to: to ?? null })
    const after = { ...next, openings, indexes: { ...state.indexes } }
    reindexOpening(after, of)
    return after
  },
  // Nor is it theirs where callers go who find it closed, when that is outside.
  redact: event => ({ ...event, to: event.to === null ? null : concealed(event.to) }),
  redactState: state => ({
    ...state, openings: state.openings.map(opening => opening.to === null ? opening : { ...opening, to: concealed(opening.to) }),
  }),
}
