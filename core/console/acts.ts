import type { AwayReason, DeviceId } from '../calls/model'
import { unliftedIn } from '../calls/paging/intercom'
import { promiseOf } from '../calls/call-backs/call-backs'
import { connectionOf, othersOf, talkingCallOf } from '../calls/questions'
import { lookUp } from '../company/lookups'
import { formatNumber } from '../numbers/dialled'
import { spelled } from '../numbers/spelling'
import type { Asked } from './console'
import { nameIn, type Scene } from './tidings'
import type { PlainKey } from '../../words/speaker'

/**
 * What is said of an operator's own act once the exchange has carried it out. Every service has its words here, or is told by what comes of it (`tidings.ts`,
 * `board-news.ts`; pages by the open microphone), so that nothing is done in silence, and nothing said twice.
 */

type Name = Asked['service']
type RequestFor<S extends Name> = Extract<Asked, { service: S }>
type Words<S extends Name> = (request: RequestFor<S>, scene: Scene) => string | null

/** Told by what comes of it. */
const told = null

export const reasonWords: Record<AwayReason, PlainKey> = {
  lunch: 'tidings.lunch', break: 'tidings.break', meeting: 'tidings.meeting', travelling: 'tidings.travelling', gone: 'tidings.goneForTheDay',
}

const until = ({ timeOf, t }: Scene, at: number | null | undefined) => at == null ? '' : t('tidings.untilAt', { at: timeOf(at) })
/** "for Marit Upwater" where it is not for oneself. */
const forOther = ({ device, nameOf, t }: Scene, of: DeviceId | undefined) => of === undefined || of === device ? '' : t('tidings.forName', { name: nameOf(of) })
const lineOf = ({ state, t }: Scene, line: string) => lookUp(state.company.lines, line)?.name ?? t('tidings.aLine')
const callerOf = (scene: Scene, id: string) => {
  const call = scene.state.calls.get(id)
  return call ? nameIn(scene, call) : scene.t('tidings.theCaller')
}

/** Whom the call that has just begun at one's telephone rings; null when it is over, or a tone says why. */
function rung(scene: Scene): { name: string, hears: boolean } | null {
  const call = talkingCallOf(scene.state, scene.device)
  const others = call ? othersOf(call, scene.device).filter(({ along }) => !along) : []
  if (!call || call.failed || others.length === 0) return null
  const name = call.hunting ? scene.nameOf(call.hunting.group) : others.map(({ device, party }) => scene.nameOf(device, party)).join(', ')
  return { name, hears: unliftedIn(call) !== undefined }
}

function promisedTo(scene: Scene, id: string): string {
  const promise = promiseOf(scene.state, id)
  return promise ? scene.nameOf('', promise.party) : scene.t('tidings.theCaller')
}

const calling: (scene: Scene) => string | null = (scene) => {
  const called = rung(scene)
  return called && !called.hears ? scene.t('tidings.callingName', { name: called.name }) : null
}

const ownService = { serving: 'tidings.youServeThe', paused: 'tidings.youPauseInThe', left: 'tidings.youHaveLeftThe' } as const
const theirService = { serving: 'tidings.whoServesThe', paused: 'tidings.whoPausesInThe', left: 'tidings.whoHasLeftThe' } as const

const acts: { [S in Name]: Words<S> | typeof told } = {
  answerCall: told, holdCall: told, retrieveCall: told, parkCall: told, singleStepTransferCall: told, transferCall: told, conferenceCall: told,
  clearConnection: told, clearCall: told, reconnectCall: told, directedPickupCall: told, groupPickupCall: told, dropParty: told,
  startRecording: told, stopRecording: told, listenIn: told, stopListening: told, whisper: told, intrudeCall: told,
  setOpening: told, setTrunkService: told, openPage: told, speakOnPage: told, closePage: told,
  // What one does with the stand-in handset, and not at the console.
  sendUserInformation: told, setHandset: told, reportTelephone: told, reportFailed: told, setAgentState: told,

  makeCall: (_, scene) => calling(scene),
  intercomCall: (_, scene) => calling(scene),
  makeCallBack: (_, scene) => calling(scene),
  consultationCall({ call }, scene) {
    const called = rung(scene)
    return called && scene.t('tidings.askingFor', { name: called.name, caller: callerOf(scene, call) })
  },
  singleStepConferenceCall({ call }, scene) {
    const invited = scene.state.calls.get(call)?.connections.filter(({ invitedBy, along }) => invitedBy === scene.device && !along).at(-1)
    return invited ? scene.t('tidings.askingToJoin', { name: scene.nameOf(invited.device, invited.party) }) : null
  },
  deflectCall({ call: id }, scene) {
    const call = scene.state.calls.get(id)
    const to = call?.passing?.to
    return call && to
      ? scene.t('tidings.passedOnTo', { caller: callerOf(scene, id), name: scene.nameOf(to, connectionOf(call, to)?.party) })
      : scene.t('tidings.passedOn')
  },
  putInQueue: ({ call, place }, scene) => scene.t(place === 'first' ? 'tidings.isFirstNow' : 'tidings.isLastNow', { caller: callerOf(scene, call) }),
  setMicrophoneMute({ party, on }, { t, device, nameOf }) {
    if (party === device) return t(on ? 'tidings.youAreMuted' : 'tidings.youAreHeardAgain')
    return t(on ? 'tidings.nameIsMuted' : 'tidings.nameIsHeardAgain', { name: nameOf(party) })
  },
  generateDigits({ digits }, scene) {
    const count = digits.replace(/[\s,-]/g, '').length
    return scene.t('tidings.digitSent', { count })
  },

  setDoNotDisturb: ({ on, of, until: at }, scene) => on
    ? scene.t('tidings.doNotDisturbOn', { whose: forOther(scene, of), until: until(scene, at) })
    : scene.t('tidings.doNotDisturbOff', { whose: forOther(scene, of) }),
  setGreeting: ({ text }, { t }) => t(text ? 'tidings.yourGreetingIsKept' : 'tidings.yourGreetingIsGone'),
  setMailboxKey: ({ digit, to }, scene) => to === null
    ? scene.t('tidings.theKeyLeadsNowhere', { digit })
    : scene.t('tidings.theKeyLeadsTo', { digit, to: destinationOf(scene, to) }),
  setStatus: ({ reason, until: at }, scene) => reason === null
    ? scene.t('tidings.yourStatusAvailable')
    : scene.t('tidings.yourStatusAway', { reason: scene.t(reasonWords[reason]), until: until(scene, at) }),
  setForwarding: ({ to, of, until: at }, scene) => to === null
    ? scene.t('tidings.callsRingAtTheTelephone', { whose: forOther(scene, of) })
    : scene.t('tidings.callsGoTo', { whose: forOther(scene, of), to: destinationOf(scene, to), until: until(scene, at) }),
  setRingAlong: ({ on, of }, { t, device, nameOf }) => of === undefined || of === device
    ? t(on ? 'tidings.theMobileRingsAlong' : 'tidings.theMobileRingsAlongNoMore')
    : t(on ? 'tidings.theMobileOfRingsAlong' : 'tidings.theMobileOfRingsAlongNoMore', { name: nameOf(of) }),
  setLetThrough: ({ number, on, of }, scene) =>
    scene.t(on ? 'tidings.callsOfRingAllTheSame' : 'tidings.callsOfRingLikeOthers', { number: destinationOf(scene, number), whose: forOther(scene, of) }),
  setLineServed: ({ line, on, until: at }, scene) => on
    ? scene.t('tidings.youServeTheAgain', { line: lineOf(scene, line) })
    : scene.t('tidings.youDoNotServeThe', { line: lineOf(scene, line), until: until(scene, at) }),
  setQueueServed({ queue, state, of }, { t, device, nameOf }) {
    const name = nameOf(queue)
    if (of === undefined || of === device) return t(ownService[state], { queue: name })
    return t(theirService[state], { name: nameOf(of), queue: name })
  },
  offerLine: ({ line, to }, scene) => to === null
    ? scene.t('tidings.nobodyIsAskedToTake', { line: lineOf(scene, line) })
    : scene.t('tidings.isAskedToTakeThe', { name: scene.nameOf(to), line: lineOf(scene, line) }),
  answerLineOffer: ({ line, yes }, scene) => scene.t(yes ? 'tidings.youServeTheLine' : 'tidings.youHaveNotTakenThe', { line: lineOf(scene, line) }),

  blockNumber: ({ number }, scene) => scene.t('tidings.isBlocked', { number: destinationOf(scene, number) }),
  unblockNumber: ({ number }, scene) => scene.t('tidings.isNotBlockedAnyMore', { number: destinationOf(scene, number) }),
  promiseCallBack: ({ number, name }, scene) => scene.t('tidings.isPromisedACallBack', { name: name || destinationOf(scene, number) }),
  assignCallBack: ({ callBack, to }, scene) => to === null
    ? scene.t('tidings.theCallBackOfIs', { name: promisedTo(scene, callBack) })
    : to === scene.device
      ? scene.t('tidings.youAreToCallBack', { name: promisedTo(scene, callBack) })
      : scene.t('tidings.whoIsToCallBack', { who: scene.nameOf(to), name: promisedTo(scene, callBack) }),
  endCallBack: ({ callBack }, scene) => scene.t('tidings.theCallBackOfIsDone', { name: promisedTo(scene, callBack) }),
  dismissNote: (_, scene) => scene.t('tidings.theNoteIsPutAway'),
}

/** A number as people write it, or somebody of ours by name. */
function destinationOf({ state: { company }, nameOf }: Scene, to: string): string {
  return spelled(to) && !lookUp(company.telephones, to) ? formatNumber(to, company.settings) : nameOf(to)
}

/**
 * What an operator hears of what they have just done; null where what comes of it is told.
 * @param scene as it is afterwards
 */
export function actWords(request: Asked, scene: Scene): string | null {
  const words = acts[request.service] as Words<Name> | typeof told
  return words?.(request as never, scene) ?? null
}
