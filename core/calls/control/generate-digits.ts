import { phrase } from '../../../words/phrase'
import { accept, ownerSentence, refuse } from '../answers'
import type { EventKind } from '../event'
import { type FieldsOf, ofCall, text } from '../fields'
import { lookUp } from '../../company/lookups'
import { connectionOf, isConversation, queueOf } from '../questions'
import { ledOnBy } from '../voicemail/set-greeting'
import { leaveForCallBack } from '../call-backs/call-back'
import { sendAway } from '../passing/passing'
import type { Service } from '../service'

const digitsOfTelephone = /^[0-9*#A-D,]{1,40}$/
const fields = () => ofCall().shape({ digits: text('digits', 80) })

declare module '../model' {
  interface Requests { generateDigits: FieldsOf<typeof fields> }
  interface Events {
    /** That digits were sent, never which: they may be the number of a card. */
    digitsGenerated: OfCall & { count: number }
  }
}

/**
 * Digits as tones (ITU-T Q.23) for menus and pagers; a comma pauses, as in ITU-T V.250 dial strings. With one of them a caller who waits asks to be called
 * back,
 * where the queue offers it; whoever hears a mailbox goes on to where its owner has said.
 */
export const generateDigits: Service<'generateDigits'> = {
  fields,
  askedBy: ['console', 'handset'],
  outside: true,
  may: ({ state, call, request }) => connectionOf(call, request.device) ? null : refuse('notYourCall', ownerSentence(state, call)),
  decide({ state, call, own, request, now }) {
    const digits = request.digits.replace(/[\s-]/g, '').toUpperCase()
    if (!digitsOfTelephone.test(digits)) return refuse('invalidNumber', phrase('refusals.digitsAre0To9'))
    const offers = own.party && lookUp(state.company.groups, queueOf(call)?.device ?? '')?.callBackDigit
    if (offers && digits === offers) return leaveForCallBack(state, call, own, now)
    const led = ledOnBy(state, call, own.device, digits)
    if (led) return accept(...sendAway(state, call, led.mailbox, led.to, 'ledOn'))
    if (own.state !== 'connected' || !isConversation(call))
      return refuse('notPossibleNow', phrase('refusals.digitsCanBeSentOnce'))
    return accept({ type: 'digitsGenerated', call: call.id, device: own.device, count: digits.replaceAll(',', '').length })
  },
}

export const digitsGenerated: EventKind<'digitsGenerated'> = { change: call => call }
