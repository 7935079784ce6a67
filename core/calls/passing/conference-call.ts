import { phrase } from '../../../words/phrase'
import { accept, refuse } from '../answers'
import { withState } from '../course'
import { type EventKind, told } from '../event'
import { type FieldsOf, idOf, ofCall } from '../fields'
import { connectionOf, othersOf } from '../questions'
import type { Service } from '../service'

const fields = () => ofCall().shape({ other: idOf('other', 'call') })

declare module '../model' {
  interface Requests { conferenceCall: FieldsOf<typeof fields> }
  interface Events {
    conferenced: OfCall & { joined: CallId }
  }
}

/** Joins the one or more parties of two calls that the same telephone has. */
export const conferenceCall: Service<'conferenceCall'> = {
  fields,
  askedBy: ['console', 'handset'],
  decide({ state, call, own, request }) {
    const other = state.calls.get(request.other)
    const there = other && connectionOf(other, own.device)
    if (!other || !there || other.id === call.id) return refuse('unknownCall', phrase('refusals.theOtherCallHasEnded'))
    const joining = [...othersOf(call, own.device), ...othersOf(other, own.device)]
    const answered = joining.every(({ state: its, device, party }) => (its === 'connected' || its === 'held') && (state.devices.has(device) || party))
    if (!answered || othersOf(call, own.device).length === 0 || othersOf(other, own.device).length === 0)
      return refuse('notPossibleNow', phrase('refusals.bothCallsMustHaveBeen'))
    if (![own.state, there.state].includes('connected') || ![own.state, there.state].includes('held')) {
      return refuse('notPossibleNow', phrase('refusals.talkOnOneOfThe'))
    }
    if (new Set(joining.map(({ device }) => device)).size < joining.length) return refuse('toCaller', phrase('refusals.theyAreInBothCalls'))
    if (joining.length + 1 > state.company.settings.conferenceSize)
      return refuse('conferenceFull', phrase('refusals.aConferenceHoldsAtMost', { conferenceSize: state.company.settings.conferenceSize }))
    return accept({ type: 'conferenced', call: call.id, device: own.device, joined: other.id })
  },
}

export const conferenced: EventKind<'conferenced'> = {
  change(call, event, joined) {
    const newcomers = joined?.connections.filter(({ device }) => device !== event.device) ?? []
    return {
      ...call, recall: null, consulted: null,
      conference: call.conference ?? { by: event.device, since: event.at },
      connections: [...withState(call.connections, event.device, 'connected', event.at), ...newcomers],
    }
  },
  step: told,
}
