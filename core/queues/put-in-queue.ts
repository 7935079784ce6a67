import { phrase } from '../../words/phrase'
import { string } from 'yup'
import { accept, ownerSentence, refuse } from '../calls/answers'
import type { EventKind } from '../calls/event'
import { type FieldsOf, ofCall } from '../calls/fields'
import { queueOf } from '../calls/questions'
import type { Service } from '../calls/service'
import { inTheirTurn } from './turns'

const places = ['first', 'last'] as const
const fields = () => ofCall().shape({ place: string().oneOf(places).required().label('place') })

declare module '../calls/model' {
  interface Requests { putInQueue: FieldsOf<typeof fields> }
  interface Events {
    /** `device`: who did it. `turn`: the lower is served first. */
    queuePlaced: OfCall & { queue: DeviceId, first: boolean, turn: number }
  }
}

/** An operator puts somebody who waits before all others of the queue, or behind them. */
export const putInQueue: Service<'putInQueue'> = {
  fields,
  askedBy: ['console'],
  may: ({ state, call, operator }) => operator
    ? null
    : refuse('notAllowed', phrase('refusals.onlyOperatorsChangeWhoIs', { owner: ownerSentence(state, call) })),
  decide({ state, call, request: { device, place } }) {
    const queue = queueOf(call)?.device
    if (queue === undefined) return refuse('notPossibleNow', phrase('refusals.thatCallerWaitsInNo', { owner: ownerSentence(state, call) }))
    const waiting = inTheirTurn(state, queue)
    const first = place === 'first'
    if (waiting.at(first ? 0 : -1)?.call === call) return accept()
    const turns = waiting.map(({ turn }) => turn ?? 0)
    return accept({ type: 'queuePlaced', call: call.id, device, queue, first, turn: first ? Math.min(0, ...turns) - 1 : Math.max(0, ...turns) + 1 })
  },
}

export const queuePlaced: EventKind<'queuePlaced'> = {
  change: (call, { turn }) => ({ ...call, turn }),
  step: ({ first, queue }) => ({ type: first ? 'putFirst' : 'putLast', to: queue }),
}
