import { phrase, type Phrase, type Spoken } from '../../../words/phrase'
import { number, object, string } from 'yup'
import { lookUp } from '../../company/lookups'
import { formatNumber, readCaller } from '../../numbers/dialled'
import { accept, nameOf, refuse, type Refused } from '../answers'
import { beginCall } from '../beginning'
import { callFor, isPrompt, maySeeTo, named, onTheLine, promisedTo, promiseOf, promptWithdrawn } from './call-backs'
import { unknownParty } from '../course'
import { type EventKind, told } from '../event'
import { device, type FieldsOf, idIfAny, idOf, idOrNull, text, textIfAny } from '../fields'
import type { Call, CallBack, CallEvent, Connection, Decision, DeviceId, ExchangeState } from '../model'
import { deviceName } from '../names'
import { retimeCallBack } from '../places'
import { connectionOf, isOperator, membersOf, queueOf } from '../questions'
import type { Service } from '../service'
import { refusalOfNumber, targetOf } from '../targets'
import { plainText } from '../text'

/** Promises to call somebody back: made by a caller who waits, or by one of ours; carried out, given to a colleague, ended. */

const longestName = 80
const longestWord = 300
const longestNumber = 40
/** More promises than this are not made: no crowd of callers can fill the memory. */
const mostPromises = 500
const overKept = 60

const promiseFields = () => object({
  device: device(), number: text('number', longestNumber), name: textIfAny('name', 300), queue: idIfAny('queue', 'group'), line: idIfAny('line', 'line'),
})
const ofPromise = () => object({ device: device(), callBack: idOf('callBack', 'callBack') })
const assignFields = () => ofPromise().shape({ to: idOrNull('to', 'device') })
const endFields = () => ofPromise().shape({ word: textIfAny('word', 1_000) })
const wall = (label: string) => number().strict().integer().min(0).required().label(label)
const restoreFields = () => object({
  id: idOf('id', 'callBack'),
  party: object({ number: string().strict().max(longestNumber).nullable().defined(), name: string().strict().max(300).nullable().defined() }).required(),
  line: idOrNull('line', 'line'), queue: idOf('queue', 'group'),
  since: wall('since'), promisedAt: wall('promisedAt'), by: idOrNull('by', 'device'), assigned: idOrNull('assigned', 'device'), tries: wall('tries'),
  notBefore: wall('notBefore').nullable(), epoch: string().required(),
})

declare module '../model' {
  interface Requests {
    promiseCallBack: FieldsOf<typeof promiseFields>
    makeCallBack: FieldsOf<typeof ofPromise>
    assignCallBack: FieldsOf<typeof assignFields>
    endCallBack: FieldsOf<typeof endFields>
    restoreCallBack: FieldsOf<typeof restoreFields>
  }
  interface Events {
    /** `since`: from when on its place counts. `tries`, `notBefore`: of a promise that an earlier run of the exchange has made. */
    callBackPromised: Pick<CallBack, 'party' | 'line' | 'queue' | 'since' | 'promisedAt' | 'by'> & {
      callBack: CallBackId
      turn?: number
      assigned?: DeviceId
      tries?: number
      notBefore?: number
    }
    /** Somebody has it, or nobody in particular. */
    callBackAssigned: { callBack: CallBackId, to: DeviceId | null, by: DeviceId | null }
    /** It is older than it may be: the operators are told. */
    callBackLate: { callBack: CallBackId }
    callBackMoved: { callBack: CallBackId, queue: DeviceId, by: DeviceId | null }
    /** It was tried in vain, or the time has come to try again (null). */
    callBackDeferred: { callBack: CallBackId, until: number | null }
    /** `word`: what the caller is told by text. */
    callBackEnded: { callBack: CallBackId, end: CallBack['end'] & string, by: DeviceId | null, word: Spoken | null }
    /** Whoever was rung to call back is there. */
    promptAnswered: OfCall
  }
}

const idOfNext = (state: ExchangeState) => `${state.epoch}-b${state.serial + 1}`
const tooMany = (state: ExchangeState) => state.callBacks.size >= mostPromises

/** The number outside at which somebody can be called back, in E.164; or why not. */
function reachable(state: ExchangeState, number: string): string | Refused {
  const e164 = readCaller(plainText(number, longestNumber), state.company.settings)
  const target = targetOf(state, e164)
  if ('refusal' in target) return target
  if (target.kind !== 'outside') return refuse('invalidNumber', phrase('refusals.thatIsANumberOf'))
  // Whatever a caller says their number is: nobody is made to dial one of the network, let alone for an emergency.
  if (target.short) return refuse('invalidNumber', phrase('refusals.thatIsAShortNumber'))
  return refusalOfNumber(state, target.number, 'callBacksTo') ?? target.number
}

/** An operator promises somebody outside that we call them: one who was missed, or one they talk with. */
export const promiseCallBack: Service<'promiseCallBack'> = {
  fields: promiseFields,
  askedBy: ['console'],
  decide({ state, telephone, request: { number, name, queue, line }, now }) {
    const { groups, lines, settings: { operators } } = state.company
    if (!isOperator(state, telephone.id)) return refuse('notAllowed', phrase('refusals.onlyOperatorsPromiseCallBacks'))
    const at = queue ?? operators
    if (lookUp(groups, at)?.distribution !== 'queue') return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchQueue'))
    if (line !== undefined && !lookUp(lines, line)) return refuse('unallocatedNumber', phrase('refusals.thereIsNoSuchLine'))
    const reached = reachable(state, number)
    if (typeof reached !== 'string') return refuse(reached.refusal.code, phrase('refusals.nothingWasPromised', { why: reached.refusal.why }))
    const written = formatNumber(reached, state.company.settings)
    if (promisedTo(state, reached, at)) return refuse('notPossibleNow', phrase('refusals.isPromisedACallBack', { written, name: nameOf(state, at) }))
    if (tooMany(state)) return refuse('notPossibleNow', phrase('refusals.tooManyCallBacksAre'))
    const party = { number: reached, name: (name && plainText(name, longestName)) || null }
    return accept(promised(state, { party, line: line ?? null, queue: at, since: now, promisedAt: now, by: telephone.id }))
  },
}

function promised(state: ExchangeState, promise: Omit<Extract<CallEvent, { type: 'callBackPromised' }>, 'type' | 'callBack'>): CallEvent {
  return { type: 'callBackPromised', callBack: idOfNext(state), ...promise }
}

/** A caller who waits in a queue leaves their place, which is kept for them, and is called back; or hears why that can't be, and goes on waiting. */
export function leaveForCallBack(state: ExchangeState, call: Call, { device: leg, party }: Connection, now: number): Decision {
  const queue = queueOf(call)!
  const say = (text: Phrase): CallEvent => ({ type: 'callInformation', call: call.id, device: queue.device, text })
  const alone = call.calling === leg && membersOf(call).length === 1
  const number = party?.number ? reachable(state, party.number) : null
  if (typeof number !== 'string' || !alone || tooMany(state))
    return accept(say(phrase('callers.weCantCallYouBack')))
  const known = promisedTo(state, number, queue.device)
  return accept(
    ...(known
      ? []
      : [promised(state, {
          party: { number, name: call.party?.name ?? null }, line: call.line, queue: queue.device, since: queue.since, promisedAt: now, by: null,
          ...(call.turn !== undefined && { turn: call.turn }),
        })]),
    say(phrase('callers.yourPlaceIsKeptWe', { number: formatNumber(number, state.company.settings) })),
    { type: 'callCleared', call: call.id, device: leg, cause: 'callBack' },
  )
}

/** The promise that is meant, if whoever asks may see to it. */
function meant(state: ExchangeState, device: DeviceId, id: string): CallBack | Refused {
  const promise = promiseOf(state, id)
  if (!promise) return refuse('notPossibleNow', phrase('refusals.thereIsNoSuchCall'))
  if (!maySeeTo(state, promise, device)) return refuse('notAllowed', phrase('refusals.operatorsSeeToCallBacks'))
  if (!state.callBacks.has(id)) return refuse('notPossibleNow', phrase('refusals.thatCallBackIsDone'))
  return promise
}

/** Who calls the caller of a promise back at this moment, by name. */
function underWay(state: ExchangeState, promise: CallBack): Spoken | null {
  const under = callFor(state, promise)
  return under && !isPrompt(under) ? nameOf(state, under.connections.find(({ device }) => state.devices.has(device))?.device ?? '') : null
}

/** Calls the caller of a promise, from the telephone of who asks. */
export const makeCallBack: Service<'makeCallBack'> = {
  fields: ofPromise,
  askedBy: ['console'],
  decide({ state, telephone, request: { callBack } }) {
    const promise = meant(state, telephone.id, callBack)
    if ('refusal' in promise) return promise
    const under = callFor(state, promise)
    const prompted = under && connectionOf(under, telephone.id)?.state === 'alerting'
    if (prompted) return refuse('notPossibleNow', phrase('refusals.yourTelephoneRingsForThat'))
    const by = underWay(state, promise)
    if (by) return refuse('alreadyAnswered', phrase('refusals.isCallingThemBackAt', { by }))
    const theirs = onTheLine(state, promise)
    if (theirs) {
      const ours = theirs.connections.find(({ device }) => deviceName(state.company, device) !== null)
      return refuse('notPossibleNow', phrase('refusals.theyAreOnTheLine', {
        more: ours ? phrase('refusals.atName', { name: nameOf(state, ours.device) }) : '',
      }))
    }
    const reached = reachable(state, promise.party.number ?? '')
    if (typeof reached !== 'string') return reached
    const begun = beginCall(state, telephone, reached, { except: [telephone.id], callBack })
    return 'refusal' in begun ? begun : accept(...promptWithdrawn(state, promise), ...named(begun.events, promise.party))
  },
}

/** Somebody takes a promise upon themselves, gives it to a colleague, or back to everybody. */
export const assignCallBack: Service<'assignCallBack'> = {
  fields: assignFields,
  askedBy: ['console'],
  decide({ state, telephone, request: { callBack, to } }) {
    const promise = meant(state, telephone.id, callBack)
    if ('refusal' in promise) return promise
    if (to !== null && !lookUp(state.company.telephones, to)) return refuse('unallocatedNumber', phrase('refusals.thereIsNoExtensionNothing', { to }))
    return promise.assigned === to ? accept() : accept({ type: 'callBackAssigned', callBack, to, by: telephone.id })
  },
}

/** A promise is done in another way, or needed no more; with `word` its caller is told something by text. */
export const endCallBack: Service<'endCallBack'> = {
  fields: endFields,
  askedBy: ['console'],
  decide({ state, telephone, request: { callBack, word } }) {
    const promise = meant(state, telephone.id, callBack)
    if ('refusal' in promise) return promise
    const by = underWay(state, promise)
    if (by) return refuse('notPossibleNow', phrase('refusals.isCallingThemBackAtThis', { by }))
    const said = (word && plainText(word, longestWord)) || null
    return accept(...promptWithdrawn(state, promise), { type: 'callBackEnded', callBack, end: 'withdrawn', by: telephone.id, word: said })
  },
}

/** A promise that an earlier run of the exchange has made. Times are those that people read. */
export const restoreCallBack: Service<'restoreCallBack'> = {
  fields: restoreFields,
  askedBy: [],
  decide({ state, request: { id, party, line, queue, since, promisedAt, by, assigned, tries, notBefore, epoch } }) {
    // What was made in this run is known, or over.
    if (promiseOf(state, id) || epoch === state.epoch) return accept()
    const ours = (at: number) => at - state.clockOffset
    return accept({
      type: 'callBackPromised', callBack: id, party: { number: party.number, name: party.name }, line, queue, since: ours(since),
      promisedAt: ours(promisedAt), by,
      ...(assigned && { assigned }), ...(tries > 0 && { tries }), ...(notBefore !== null && { notBefore: ours(notBefore) }),
    })
  },
}

/** A promise as an event leaves it, with its timer. */
function withPromise(state: ExchangeState, next: ExchangeState, id: string, change: Partial<CallBack>): ExchangeState {
  const promise = state.callBacks.get(id)
  if (!promise) return next
  next.callBacks = state.callBacks.set(id, { ...promise, ...change })
  return retimeCallBack(state, next, id)
}

const redacted = (promise: CallBack): CallBack => ({ ...promise, party: unknownParty, word: null })

export const callBackPromised: EventKind<'callBackPromised'> = {
  evolve(state, next, { callBack: id, party, line, queue, since, promisedAt, by, turn, assigned, tries, notBefore }) {
    next.serial = state.serial + 1
    next.callBacks = state.callBacks.set(id, {
      id, party, line, queue, since, promisedAt, by, assigned: assigned ?? null, tries: tries ?? 0, notBefore: notBefore ?? null, offered: [],
      rung: false, call: null, end: null, endedBy: null, endedAt: null, word: null, ...(turn !== undefined && { turn }),
    })
    return retimeCallBack(state, next, id)
  },
  redact: event => ({ ...event, party: unknownParty }),
  redactState: state => ({ ...state, callBacks: state.callBacks.map(redacted), callBacksOver: state.callBacksOver.map(redacted) }),
}

export const callBackAssigned: EventKind<'callBackAssigned'> = {
  evolve: (state, next, { callBack, to }) => withPromise(state, next, callBack, { assigned: to }),
}

export const callBackMoved: EventKind<'callBackMoved'> = {
  evolve: (state, next, { callBack, queue }) => withPromise(state, next, callBack, { queue, offered: [] }),
}

export const callBackDeferred: EventKind<'callBackDeferred'> = {
  evolve: (state, next, { callBack, until }) => withPromise(state, next, callBack, { notBefore: until, call: null, rung: false }),
}

export const callBackLate: EventKind<'callBackLate'> = {
  evolve: (state, next, { callBack }) => withPromise(state, next, callBack, { late: true }),
}

export const callBackEnded: EventKind<'callBackEnded'> = {
  evolve(state, next, { callBack, end, by, word, at }) {
    const promise = state.callBacks.get(callBack)
    if (!promise) return next
    next.callBacks = state.callBacks.delete(callBack)
    next.callBacksOver = [...state.callBacksOver, { ...promise, end, endedBy: by, endedAt: at, word, call: null }].slice(-overKept)
    return retimeCallBack(state, next, callBack)
  },
  redact: event => ({ ...event, word: null }),
}

export const promptAnswered: EventKind<'promptAnswered'> = {
  change: (call, { device, at }) => ({
    ...call, servedFrom: call.connections[0]?.offeredBy ?? call.servedFrom, connections: [{ device, state: 'connected', since: at }],
  }),
  step: told,
}
