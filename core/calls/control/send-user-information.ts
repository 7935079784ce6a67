import { phrase, type Spoken } from '../../../words/phrase'
import { accept, ownerSentence, refuse } from '../answers'
import type { EventKind } from '../event'
import { type FieldsOf, ofCall, text } from '../fields'
import { connectionOf } from '../questions'
import type { Service } from '../service'
import { plainText } from '../text'

const longestCaption = 300
const fields = () => ofCall().shape({ text: text('text', longestCaption) })

declare module '../model' {
  interface Requests { sendUserInformation: FieldsOf<typeof fields> }
  interface Events {
    /** `text`: somebody's words, or what the house says. */
    callInformation: OfCall & { text: Spoken }
  }
}

/** What a party says: a caption stands in for the voice. */
export const sendUserInformation: Service<'sendUserInformation'> = {
  fields,
  askedBy: ['handset'],
  outside: true,
  may: ({ state, call, request }) => connectionOf(call, request.device) ? null : refuse('notYourCall', ownerSentence(state, call)),
  decide({ call, own, request }) {
    if (own.muted) return refuse('notPossibleNow', phrase('refusals.yourMicrophoneIsOffNobody'))
    return accept({ type: 'callInformation', call: call.id, device: own.device, text: plainText(request.text, longestCaption) })
  },
}

export const callInformation: EventKind<'callInformation'> = {
  change: (call, { device, text, at }) => ({ ...call, caption: { device, text, at } }),
  redact: event => ({ ...event, text: '' }),
  redactCall: call => ({ ...call, caption: call.caption && { ...call.caption, text: '' } }),
}
