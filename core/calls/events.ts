import { type CallChange, course, stepAs } from './course'
import type { EventKind } from './event'
import type { EventName, EventOf, Step } from './model'
import { clockAdjusted } from './services/adjust-clock'
import { numberBlocked } from './services/block-number'
import { callBackAssigned, callBackDeferred, callBackEnded, callBackLate, callBackMoved, callBackPromised, promptAnswered } from './services/call-back'
import { refused } from './services/clear-connection'
import { conferenced } from './services/conference-call'
import { configured } from './services/configure'
import { noteDismissed } from './services/dismiss-note'
import { digitsGenerated } from './services/generate-digits'
import { held } from './services/hold-call'
import { lineOffered } from './services/offer-line'
import { pageBegun, pageClosed, pageOpened, pageSpoken } from './services/page'
import { parked } from './services/park-call'
import { queuePlaced } from './services/put-in-queue'
import { retrieved } from './services/retrieve-call'
import { callInformation } from './services/send-user-information'
import { agentStateChanged } from './services/set-agent-state'
import { doNotDisturb } from './services/set-do-not-disturb'
import { forwarded, forwardingChanged } from './services/set-forwarding'
import { handsetChanged } from './services/set-handset'
import { letThroughChanged } from './services/set-let-through'
import { lineServed } from './services/set-line-served'
import { microphoneMute } from './services/set-microphone-mute'
import { openingChanged } from './services/set-opening'
import { queueServed } from './services/set-queue-served'
import { ringAlongChanged } from './services/set-ring-along'
import { trunkChanged } from './services/set-trunk-service'
import { statusChanged } from './services/set-status'
import { transferred } from './services/single-step-transfer-call'
import { numberUnblocked } from './services/unblock-number'
import { queueAnnounced } from './telling'

/** Every kind of event. */
export const kinds: { [E in EventName]: EventKind<E> } = {
  ...course, concealed: {}, callBackAssigned, callBackDeferred, callBackEnded, callBackLate, callBackMoved, callBackPromised, promptAnswered,
  clockAdjusted, numberBlocked, refused, conferenced, configured, noteDismissed, digitsGenerated, held,
  pageOpened, pageBegun, pageSpoken, pageClosed, parked, retrieved,
  callInformation, agentStateChanged, doNotDisturb, forwarded, forwardingChanged, handsetChanged, letThroughChanged, lineOffered, lineServed, microphoneMute,
  openingChanged, queueAnnounced, queuePlaced, queueServed, ringAlongChanged, statusChanged, transferred, trunkChanged, numberUnblocked,
}

/** The step of a call's story that an event makes; null when it is not told there. */
export function stepOf(event: CallChange | EventOf<'callCleared'>): Step | null {
  const kind = kinds[event.type] as EventKind<never>
  return kind.step ? stepAs(kind, event) : null
}
