import '../schema/wording'
import { adjustClock } from './configuration/adjust-clock'
import { answerCall } from './control/answer-call'
import { blockNumber, restoreBlock } from './outside/block-number'
import { assignCallBack, endCallBack, makeCallBack, promiseCallBack, restoreCallBack } from './call-backs/call-back'
import { clearCall } from './control/clear-call'
import { clearConnection } from './control/clear-connection'
import { conferenceCall } from './passing/conference-call'
import { configure } from './configuration/configure'
import { consultationCall } from './passing/consultation-call'
import { deflectCall } from './passing/deflect-call'
import { directedPickupCall } from './control/directed-pickup-call'
import { dismissNote } from './parking/dismiss-note'
import { dropParty } from './passing/drop-party'
import { generateDigits } from './control/generate-digits'
import { groupPickupCall } from './control/group-pickup-call'
import { holdCall } from './control/hold-call'
import { intrudeCall, listenIn, stopListening, whisper } from './listening/listen-in'
import { makeCall } from './control/make-call'
import { offerCall } from './outside/offer-call'
import { answerLineOffer, offerLine } from '../queues/offer-line'
import { closePage, intercomCall, openPage, speakOnPage } from './paging/page'
import { parkCall } from './parking/park-call'
import { putInQueue } from '../queues/put-in-queue'
import { startRecording, stopRecording } from './recording/record-call'
import { reconnectCall } from './passing/reconnect-call'
import { retrieveCall } from './control/retrieve-call'
import { sendUserInformation } from './control/send-user-information'
import { setAgentState } from '../queues/set-agent-state'
import { setDoNotDisturb } from './forwarding/set-do-not-disturb'
import { setForwarding } from './forwarding/set-forwarding'
import { restoreMailbox, setGreeting, setMailboxKey } from './voicemail/set-greeting'
import { reportFailed } from './outside/report-failed'
import { reportTelephone } from './telephones/report-telephone'
import { setHandset } from './telephones/set-handset'
import { setLetThrough } from './forwarding/set-let-through'
import { setLineServed } from '../queues/set-line-served'
import { setOpening } from '../queues/set-opening'
import { setQueueServed } from '../queues/set-queue-served'
import { setMicrophoneMute } from './control/set-microphone-mute'
import { setRingAlong } from './forwarding/set-ring-along'
import { setStatus } from './telephones/set-status'
import { reportTrunk, setTrunkService } from './outside/set-trunk-service'
import { singleStepConferenceCall } from './passing/single-step-conference-call'
import { singleStepTransferCall } from './passing/single-step-transfer-call'
import { transferCall } from './passing/transfer-call'
import { unblockNumber } from './outside/unblock-number'
import type { Service } from './service'
import type { ServiceName } from './model'

/** Every service of the call model, but for time itself: what people ask, the API's description and the random tests know them from here. */
export const services: { [S in Exclude<ServiceName, 'tick'>]: Service<S> } = {
  adjustClock, answerCall, answerLineOffer, assignCallBack, blockNumber, clearCall, clearConnection,
  closePage, conferenceCall, configure, consultationCall, deflectCall, directedPickupCall,
  dismissNote, dropParty, endCallBack, generateDigits, groupPickupCall, holdCall, intercomCall, intrudeCall, listenIn, makeCall, makeCallBack,
  offerCall, offerLine,
  openPage, parkCall, promiseCallBack, putInQueue, reconnectCall, reportFailed, reportTelephone, reportTrunk, restoreBlock, restoreCallBack, restoreMailbox,
  retrieveCall, sendUserInformation,
  setAgentState, setDoNotDisturb, setForwarding, setGreeting, setHandset, setLetThrough, setLineServed, setMailboxKey, setMicrophoneMute,
  setOpening, setQueueServed, setRingAlong, setStatus, setTrunkService, singleStepConferenceCall, singleStepTransferCall,
  speakOnPage, startRecording, stopListening, stopRecording, transferCall, unblockNumber, whisper,
}
