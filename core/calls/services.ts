import '../schema/wording'
import { adjustClock } from './services/adjust-clock'
import { answerCall } from './services/answer-call'
import { blockNumber, restoreBlock } from './services/block-number'
import { assignCallBack, endCallBack, makeCallBack, promiseCallBack, restoreCallBack } from './services/call-back'
import { clearCall } from './services/clear-call'
import { clearConnection } from './services/clear-connection'
import { conferenceCall } from './services/conference-call'
import { configure } from './services/configure'
import { consultationCall } from './services/consultation-call'
import { deflectCall } from './services/deflect-call'
import { directedPickupCall } from './services/directed-pickup-call'
import { dismissNote } from './services/dismiss-note'
import { dropParty } from './services/drop-party'
import { generateDigits } from './services/generate-digits'
import { groupPickupCall } from './services/group-pickup-call'
import { holdCall } from './services/hold-call'
import { makeCall } from './services/make-call'
import { offerCall } from './services/offer-call'
import { answerLineOffer, offerLine } from './services/offer-line'
import { closePage, intercomCall, openPage, speakOnPage } from './services/page'
import { parkCall } from './services/park-call'
import { putInQueue } from './services/put-in-queue'
import { reconnectCall } from './services/reconnect-call'
import { retrieveCall } from './services/retrieve-call'
import { sendUserInformation } from './services/send-user-information'
import { setAgentState } from './services/set-agent-state'
import { setDoNotDisturb } from './services/set-do-not-disturb'
import { setForwarding } from './services/set-forwarding'
import { setHandset } from './services/set-handset'
import { setLetThrough } from './services/set-let-through'
import { setLineServed } from './services/set-line-served'
import { setOpening } from './services/set-opening'
import { setQueueServed } from './services/set-queue-served'
import { setMicrophoneMute } from './services/set-microphone-mute'
import { setRingAlong } from './services/set-ring-along'
import { setStatus } from './services/set-status'
import { reportTrunk, setTrunkService } from './services/set-trunk-service'
import { singleStepConferenceCall } from './services/single-step-conference-call'
import { singleStepTransferCall } from './services/single-step-transfer-call'
import { transferCall } from './services/transfer-call'
import { unblockNumber } from './services/unblock-number'
import type { Service } from './service'
import type { ServiceName } from './model'

/** Every service of the call model, but for time itself: what people ask, the API's description and the random tests know them from here. */
export const services: { [S in Exclude<ServiceName, 'tick'>]: Service<S> } = {
  adjustClock, answerCall, answerLineOffer, assignCallBack, blockNumber, clearCall, clearConnection,
  closePage, conferenceCall, configure, consultationCall, deflectCall, directedPickupCall,
  dismissNote, dropParty, endCallBack, generateDigits, groupPickupCall, holdCall, intercomCall, makeCall, makeCallBack, offerCall, offerLine,
  openPage, parkCall, promiseCallBack, putInQueue, reconnectCall, reportTrunk, restoreBlock, restoreCallBack, retrieveCall, sendUserInformation,
  setAgentState, setDoNotDisturb, setForwarding, setHandset, setLetThrough, setLineServed, setMicrophoneMute,
  setOpening, setQueueServed, setRingAlong, setStatus, setTrunkService, singleStepConferenceCall, singleStepTransferCall,
  speakOnPage, transferCall, unblockNumber,
}
