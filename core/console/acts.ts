import type { AwayReason, DeviceId } from '../calls/model'
import { unliftedIn } from '../calls/paging/intercom'
import { promiseOf } from '../calls/call-backs/call-backs'
import { connectionOf, othersOf, talkingCallOf } from '../calls/questions'
import { lookUp } from '../company/lookups'
import { formatNumber } from '../numbers/dialled'
import { spelled } from '../numbers/spelling'
import type { Asked } from './console'
import { nameIn, type Scene } from './tidings'

/**
 * What is said of an operator's own act once the exchange has carried it out. Every service has its words here, or is told by what comes of it (`tidings.ts`,
 * `board-news.ts`; pages by the open microphone), so that nothing is done in silence, and nothing said twice.
 */

type Name = Asked['service']
type RequestFor<S extends Name> = Extract<Asked, { service: S }>
type Words<S extends Name> = (request: RequestFor<S>, scene: Scene) => string | null

/** Told by what comes of it. */
const told = null

export const reasonWords: Record<AwayReason, string> = {
  lunch: 'lunch', break: 'break', meeting: 'meeting', travelling: 'travelling', gone: 'gone for the day',
}

const until = ({ timeOf }: Scene, at: number | null | undefined) => at == null ? '' : `, until ${timeOf(at)}`
/** "for Marit Upwater" where it is not for oneself. */
const forOther = ({ device, nameOf }: Scene, of: DeviceId | undefined) => of === undefined || of === device ? '' : ` for ${nameOf(of)}`
const lineOf = ({ state }: Scene, line: string) => lookUp(state.company.lines, line)?.name ?? 'line'
const callerOf = (scene: Scene, id: string) => {
  const call = scene.state.calls.get(id)
  return call ? nameIn(scene, call) : 'The caller'
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
  return promise ? scene.nameOf('', promise.party) : 'The caller'
}

const calling: (scene: Scene) => string | null = (scene) => {
  const called = rung(scene)
  return called && !called.hears ? `Calling ${called.name}` : null
}

const acts: { [S in Name]: Words<S> | typeof told } = {
  answerCall: told, holdCall: told, retrieveCall: told, parkCall: told, singleStepTransferCall: told, transferCall: told, conferenceCall: told,
  clearConnection: told, clearCall: told, reconnectCall: told, directedPickupCall: told, groupPickupCall: told, dropParty: told,
  setOpening: told, setTrunkService: told, openPage: told, speakOnPage: told, closePage: told,
  // What one does with the stand-in handset, and not at the console.
  sendUserInformation: told, setHandset: told, setAgentState: told,

  makeCall: (_, scene) => calling(scene),
  intercomCall: (_, scene) => calling(scene),
  makeCallBack: (_, scene) => calling(scene),
  consultationCall({ call }, scene) {
    const called = rung(scene)
    return called && `Asking ${called.name} for ${callerOf(scene, call)}`
  },
  singleStepConferenceCall({ call }, scene) {
    const invited = scene.state.calls.get(call)?.connections.filter(({ invitedBy, along }) => invitedBy === scene.device && !along).at(-1)
    return invited ? `Asking ${scene.nameOf(invited.device, invited.party)} to join` : null
  },
  deflectCall({ call: id }, scene) {
    const call = scene.state.calls.get(id)
    const to = call?.passing?.to
    return call && to ? `${callerOf(scene, id)} passed on to ${scene.nameOf(to, connectionOf(call, to)?.party)}` : 'Passed on'
  },
  putInQueue: ({ call, place }, scene) => `${callerOf(scene, call)} is ${place} now`,
  setMicrophoneMute: ({ party, on }, scene) =>
    party === scene.device ? on ? 'You are muted' : 'You are heard again' : `${scene.nameOf(party)} is ${on ? 'muted' : 'heard again'}`,
  generateDigits({ digits }) {
    const count = digits.replace(/[\s,-]/g, '').length
    return `${count} ${count === 1 ? 'digit' : 'digits'} sent`
  },

  setDoNotDisturb: ({ on, of, until: at }, scene) => `Do not disturb ${on ? 'on' : 'off'}${forOther(scene, of)}${on ? until(scene, at) : ''}`,
  setStatus: ({ reason, until: at }, scene) => reason === null ? 'Your status: Available' : `Your status: Away, ${reasonWords[reason]}${until(scene, at)}`,
  setForwarding: ({ to, of, until: at }, scene) => to === null
    ? `Calls${forOther(scene, of)} ring at the telephone again`
    : `Calls${forOther(scene, of)} go to ${destinationOf(scene, to)}${until(scene, at)}`,
  setRingAlong: ({ on, of }, scene) => `The mobile${forOther(scene, of).replace(' for ', ' of ')} rings along${on ? '' : ' no more'}`,
  setLetThrough: ({ number, on, of }, scene) =>
    `Calls of ${destinationOf(scene, number)} ${on ? 'ring all the same' : 'ring like others'}${forOther(scene, of)}`,
  setLineServed: ({ line, on, until: at }, scene) => `You ${on ? 'serve' : 'do not serve'} the ${lineOf(scene, line)}${on ? ' again' : until(scene, at)}`,
  setQueueServed({ queue, state, of }, scene) {
    const own = of === undefined || of === scene.device
    const does = { serving: own ? 'serve' : 'serves', paused: own ? 'pause in' : 'pauses in', left: own ? 'have left' : 'has left' }[state]
    return `${own ? 'You' : scene.nameOf(of)} ${does} the ${scene.nameOf(queue)}`
  },
  offerLine: ({ line, to }, scene) => to === null
    ? `Nobody is asked to take the ${lineOf(scene, line)} any more`
    : `${scene.nameOf(to)} is asked to take the ${lineOf(scene, line)}`,
  answerLineOffer: ({ line, yes }, scene) => `${yes ? 'You serve' : 'You have not taken'} the ${lineOf(scene, line)}`,

  blockNumber: ({ number }, scene) => `${destinationOf(scene, number)} is blocked`,
  unblockNumber: ({ number }, scene) => `${destinationOf(scene, number)} is not blocked any more`,
  promiseCallBack: ({ number, name }, scene) => `${name || destinationOf(scene, number)} is promised a call-back`,
  assignCallBack: ({ callBack, to }, scene) => to === null
    ? `The call-back of ${promisedTo(scene, callBack)} is everybody's`
    : `${to === scene.device ? 'You are' : `${scene.nameOf(to)} is`} to call ${promisedTo(scene, callBack)} back`,
  endCallBack: ({ callBack }, scene) => `The call-back of ${promisedTo(scene, callBack)} is done`,
  dismissNote: () => 'The note is put away',
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
