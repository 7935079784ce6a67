import { type CallChange, course, stepAs } from './course'
import type { EventKind } from './event'
import type { EventName, EventOf, Step } from './model'
import { clockAdjusted } from './configuration/adjust-clock'
import { numberBlocked } from './outside/block-number'
import { callBackAssigned, callBackDeferred, callBackEnded, callBackLate, callBackMoved, callBackPromised, promptAnswered } from './call-backs/call-back'
import { refused } from './control/clear-connection'
import { conferenced } from './passing/conference-call'
import { configured } from './configuration/configure'
import { intruded, listeningBegun, listeningEnded, whisperBegun, whisperEnded } from './listening/listen-in'
import { noteDismissed } from './parking/dismiss-note'
import { digitsGenerated } from './control/generate-digits'
import { held } from './control/hold-call'
import { lineOffered } from '../queues/offer-line'
import { pageBegun, pageClosed, pageOpened, pageSpoken } from './paging/page'
import { parked } from './parking/park-call'
import { queuePlaced } from '../queues/put-in-queue'
import { recordingStarted, recordingStopped } from './recording/record-call'
import { retrieved } from './control/retrieve-call'
import { callInformation } from './control/send-user-information'
import { agentStateChanged } from '../queues/set-agent-state'
import { doNotDisturb } from './forwarding/set-do-not-disturb'
import { forwarded, forwardingChanged } from './forwarding/set-forwarding'
import { greetingChanged, mailboxKeyChanged, mailboxRestored } from './voicemail/set-greeting'
import { telephoneChanged } from './telephones/report-telephone'
import { handsetChanged } from './telephones/set-handset'
import { letThroughChanged } from './forwarding/set-let-through'
import { lineServed } from '../queues/set-line-served'
import { microphoneMute } from './control/set-microphone-mute'
import { openingChanged } from '../queues/set-opening'
import { queueServed } from '../queues/set-queue-served'
import { ringAlongChanged } from './forwarding/set-ring-along'
import { trunkChanged } from './outside/set-trunk-service'
import { statusChanged } from './telephones/set-status'
import { transferred } from './passing/single-step-transfer-call'
import { numberUnblocked } from './outside/unblock-number'
import { queueAnnounced } from '../queues/telling'

/** Every kind of event. */
export const kinds: { [E in EventName]: EventKind<E> } = {
  ...course, concealed: {}, callBackAssigned, callBackDeferred, callBackEnded, callBackLate, callBackMoved, callBackPromised, promptAnswered,
  clockAdjusted, numberBlocked, refused, conferenced, configured, noteDismissed, digitsGenerated, held,
  listeningBegun, listeningEnded, whisperBegun, whisperEnded, intruded, recordingStarted, recordingStopped,
  pageOpened, pageBegun, pageSpoken, pageClosed, parked, retrieved,
  callInformation, agentStateChanged, doNotDisturb, forwarded, forwardingChanged,
  greetingChanged, mailboxKeyChanged, mailboxRestored, handsetChanged, letThroughChanged, lineOffered, lineServed, microphoneMute,
  openingChanged, queueAnnounced, queuePlaced, queueServed, ringAlongChanged, statusChanged, telephoneChanged, transferred, trunkChanged, numberUnblocked,
}

/** The step of a call's story that an event makes; null when it is not told there. */
export function stepOf(event: CallChange | EventOf<'callCleared'>): Step | null {
  const kind = kinds[event.type] as EventKind<never>
  return kind.step ? stepAs(kind, event) : null
}
