import { phrase } from '../../words/phrase'
import { boolean, object } from 'yup'
import { lookUp } from '../company/lookups'
import { accept, nameOf, refuse } from '../calls/answers'
import type { EventKind } from '../calls/event'
import { device, type FieldsOf, idOf, idOrNull } from '../calls/fields'
import type { CallEvent } from '../calls/model'
import { withAgent } from '../calls/places'
import type { Service } from '../calls/service'

/** Operators share the lines between them: one asks another to take a line, and the other takes it or not. */

/** For so long a line that another has taken over is left to them, in milliseconds: a shift, and no longer than to the next day. */
const leftFor = 12 * 60 * 60_000

const offerFields = () => object({ device: device(), line: idOf('line', 'line'), to: idOrNull('to', 'device') })
const answerFields = () => object({ device: device(), from: idOf('from', 'device'), line: idOf('line', 'line'),
  yes: boolean().strict().required().label('yes') })

declare module '../calls/model' {
  interface Requests {
    offerLine: FieldsOf<typeof offerFields>
    answerLineOffer: FieldsOf<typeof answerFields>
  }
  interface Events {
    /** `to`: who is asked to take it; null: nobody is any more. `taken`: they have. */
    lineOffered: AtPlace & { line: LineId, to: DeviceId | null, taken?: true }
  }
}

/** An operator asks another to take one of their lines, or asks no longer (`to` null). Until the other has said yes nothing changes. */
export const offerLine: Service<'offerLine'> = {
  fields: offerFields,
  askedBy: ['console'],
  decide({ state, telephone: { id }, request: { line, to } }) {
    const agent = state.agents.get(id)
    if (!agent) return refuse('notAllowed', phrase('refusals.onlyOperatorsServeLines'))
    if (to === null) return agent.offers?.[line] ? accept({ type: 'lineOffered', device: id, line, to: null }) : accept()
    if (!lookUp(state.company.lines, line)) return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchLineSentence'))
    if (to === id) return refuse('toSelf', phrase('refusals.thatIsYourself'))
    if (!state.agents.get(to)?.attended) return refuse('nobodyServes', phrase('refusals.isNotThereYouStill', { name: nameOf(state, to) }))
    if (line in agent.unserved) return refuse('notPossibleNow', phrase('refusals.youDoNotServeThat'))
    return accept({ type: 'lineOffered', device: id, line, to })
  },
}

/** Whoever was asked takes the line, and the other leaves it to them; or they do not. */
export const answerLineOffer: Service<'answerLineOffer'> = {
  fields: answerFields,
  askedBy: ['console'],
  decide({ state, telephone: { id }, request: { from, line, yes }, now }) {
    if (!state.agents.get(id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsServeLines'))
    if (state.agents.get(from)?.offers?.[line]?.to !== id)
      return refuse('notPossibleNow', phrase('refusals.doesNotAskYouTo', { name: nameOf(state, from) }))
    const over: CallEvent = { type: 'lineOffered', device: from, line, to: null, ...(yes && { taken: true }) }
    if (!yes) return accept(over)
    return accept(
      over,
      { type: 'lineServed', device: id, line, on: true, until: null },
      { type: 'lineServed', device: from, line, on: false, until: now + state.clockOffset + leftFor, taker: id },
    )
  },
}

export const lineOffered: EventKind<'lineOffered'> = {
  evolve: (state, next, { device, line, to, at }) => withAgent(state, next, device, ({ offers: { [line]: _before, ...others } = {} }) => ({
    offers: to === null ? others : { ...others, [line]: { to, at } },
  })),
}
