import { object } from 'yup'
import { lookUp } from '../../company/lookups'
import { phrase } from '../../../words/phrase'
import { accept, holdingTheRest, nameOf, refuse } from '../answers'
import { type EventKind, told } from '../event'
import { device, type FieldsOf, idOf, ofCall, on } from '../fields'
import { ownPage, closed } from '../paging/pages'
import { connectionOf, isBusy, isConversation } from '../questions'
import type { Service } from '../service'
import { listeningEnds, listeningTo, mayListen, wouldLeak } from './listenings'

const listenFields = () => ofCall().shape({ to: idOf('to', 'device') })
const ownFields = () => object({ device: device() })
const whisperFields = () => ofCall().shape({ on: on() })

declare module '../model' {
  interface Requests {
    listenIn: FieldsOf<typeof listenFields>
    stopListening: FieldsOf<typeof ownFields>
    whisper: FieldsOf<typeof whisperFields>
    intrudeCall: FieldsOf<typeof ofCall>
  }
  interface Events {
    /** `to`: the colleague at whose end it is heard. */
    listeningBegun: OfCall & { to: DeviceId }
    listeningEnded: OfCall
    whisperBegun: OfCall
    whisperEnded: OfCall
    /** Whoever listened has joined; `to`: the colleague whose call it was. */
    intruded: OfCall & { to: DeviceId }
  }
}

/**
 * Hears what a colleague hears in a call, and says nothing there. A call in hand is put on hold. It stands in the call's story before the first word is
 * heard.
 */
export const listenIn: Service<'listenIn'> = {
  fields: listenFields,
  askedBy: ['console'],
  // Who has the right is no part of the call.
  may: ({ state, request: { device } }) => mayListen(state, device) ? null : refuse('notAllowed', phrase('refusals.youHaveNoRightToListen')),
  decide({ state, call, request: { device: by, to } }) {
    if (connectionOf(call, by)) return refuse('notPossibleNow', phrase('refusals.youAreInThatCall'))
    const theirs = connectionOf(call, to)
    if (!state.devices.has(to) || !theirs || !isConversation(call) || theirs.state !== 'connected')
      return refuse('notPossibleNow', phrase('refusals.talksNoMoreThere', { name: nameOf(state, to) }))
    const [before, page] = [state.listenings.get(by), ownPage(state, by)]
    return accept(
      ...(before ? [listeningEnds(before)] : []),
      ...(page ? [closed(page, 'normalClearing')] : []),
      ...holdingTheRest(state, by),
      { type: 'listeningBegun', call: call.id, device: by, to },
    )
  },
}

export const stopListening: Service<'stopListening'> = {
  fields: ownFields,
  askedBy: ['console'],
  decide({ state, telephone }) {
    const listening = state.listenings.get(telephone.id)
    return listening ? accept(listeningEnds(listening)) : refuse('notPossibleNow', phrase('refusals.youListenToNobody'))
  },
}

/** Speaks to the colleague alone; refused where somebody else of ours is in the call, who may sit beside them. */
export const whisper: Service<'whisper'> = {
  fields: whisperFields,
  askedBy: ['console'],
  may: ({ state, call, request: { device } }) => listeningTo(state, call, device) ? null : refuse('notYourCall', phrase('refusals.youDoNotListenToThat')),
  decide({ state, call, request: { device, on } }) {
    const listening = listeningTo(state, call, device)!
    if (on === listening.whispers) return accept()
    const { to } = listening
    if (on && wouldLeak(state, call, to)) return refuse('notPossibleNow', phrase('refusals.aWhisperWouldBeHeard', { name: nameOf(state, to) }))
    return accept({ type: on ? 'whisperBegun' : 'whisperEnded', call: call.id, device })
  },
}

/** Whoever listens joins the call, and is heard by all. */
export const intrudeCall: Service<'intrudeCall'> = {
  fields: ofCall,
  askedBy: ['console'],
  may: ({ state, call, request: { device } }) => listeningTo(state, call, device) ? null : refuse('notYourCall', phrase('refusals.youDoNotListenToThat')),
  decide({ state, call, request: { device } }) {
    const listening = listeningTo(state, call, device)!
    if (connectionOf(call, listening.to)?.state !== 'connected' || !isConversation(call))
      return refuse('notPossibleNow', phrase('refusals.talksNoMoreThere', { name: nameOf(state, listening.to) }))
    if (isBusy(state, lookUp(state.company.telephones, device)!)) return refuse('tooManyCalls', phrase('refusals.youHaveAsManyCalls'))
    const { conferenceSize } = state.company.settings
    if (call.connections.length >= conferenceSize) return refuse('conferenceFull', phrase('refusals.aConferenceHoldsAtMost', { conferenceSize }))
    return accept(listeningEnds(listening), { type: 'intruded', call: call.id, device, to: listening.to })
  },
}

export const listeningBegun: EventKind<'listeningBegun'> = { step: told }
export const listeningEnded: EventKind<'listeningEnded'> = { step: told }
export const whisperBegun: EventKind<'whisperBegun'> = { step: told }
export const whisperEnded: EventKind<'whisperEnded'> = { step: told }

export const intruded: EventKind<'intruded'> = {
  change: (call, { device, to, at }) => ({
    ...call,
    conference: call.conference ?? { by: to, since: at },
    connections: [...call.connections, { device, state: 'connected', since: at }],
  }),
  step: told,
}
