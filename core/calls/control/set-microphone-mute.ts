import { phrase } from '../../../words/phrase'
import { accept, nameOf, ownerSentence, refuse } from '../answers'
import { muted } from '../course'
import type { EventKind } from '../event'
import { type FieldsOf, idOf, ofCall, on } from '../fields'
import type { Connection } from '../model'
import { connectionOf } from '../questions'
import type { Service } from '../service'

const fields = () => ofCall().shape({ party: idOf('party', 'device'), on: on() })

declare module '../model' {
  interface Requests { setMicrophoneMute: FieldsOf<typeof fields> }
  interface Events {
    microphoneMute: OfCall & { on: boolean }
  }
}

/** Oneself, or in a conference that one leads anybody, hears and is not heard. */
export const setMicrophoneMute: Service<'setMicrophoneMute'> = {
  fields,
  askedBy: ['console', 'handset'],
  may({ state, call, part, request: { device, party } }) {
    if (part !== 'member') return refuse('notYourCall', ownerSentence(state, call))
    return party === device || call.conference?.by === device ? null : refuse('notAllowed', phrase('refusals.onlyWhoLeadsTheConferenceMay'))
  },
  decide({ state, call, request: { party, on } }) {
    const target = connectionOf(call, party)
    if (!target || (target.state !== 'connected' && target.state !== 'held'))
      return refuse('notPossibleNow', phrase('refusals.isNotTalkingInThis', { name: nameOf(state, party) }))
    return accept({ type: 'microphoneMute', call: call.id, device: party, on })
  },
}

export const microphoneMute: EventKind<'microphoneMute'> = {
  change: (call, { device, on }) => ({
    ...call,
    connections: call.connections.map(candidate => (candidate.device === device ? lifted(muted(candidate, on), on) : candidate)),
  }),
}

/** Whoever's telephone has answered by itself has lifted once their microphone is on. */
function lifted({ byItself, ...rest }: Connection, on: boolean): Connection {
  return on && byItself ? { ...rest, byItself } : rest
}
