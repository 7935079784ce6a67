import { spoken } from '../../words/phrase'
import { isPrompt } from '../calls/call-backs/call-backs'
import { unliftedIn } from '../calls/paging/intercom'
import type { Call, Cause, DeviceId, ExchangeState, NumberedEvent } from '../calls/model'
import { isMailbox } from '../calls/names'
import { urgency } from '../queues/promises'
import { connectionOf, othersOf, queueOf } from '../calls/questions'
import { type Stretch, stretchOf } from '../calls/stretches'
import { tellRecall, whyFailed } from '../calls/story'
import { spell } from '../durations/durations'
import type { Announcement, Ending, Rank, Wait } from './announcements'
import { promisedTo } from './call-backs'
import { apart, type NameOf, otherName } from './console'
import type { Ribbon } from './track'
import type { PlainKey, Speaker } from '../../words/speaker'

/** One thing that an operator hears, and reads where the call was if it has left that stretch. */
export interface Tiding extends Announcement { about: string, leaves: Stretch | null }

/** What the operator's screen knows when something has happened. */
export interface Scene {
  /** As it is afterwards. */
  state: ExchangeState
  /** The operator's own telephone. */
  device: DeviceId
  nameOf: NameOf
  /** How a line is called; the operator's own extension has none. */
  lineName: (call: Call) => string
  /** How a caller on a line is greeted, or null. */
  greeting: (call: Call) => string | null
  /** Whose department somebody belongs to, or null. */
  departmentOf: (device: DeviceId) => string | null
  /** True for the name of two calls of the operator's: each is told with what tells them apart. */
  hasTwin?: (name: string) => boolean
  /** What the other side is heard to say is said too. */
  saysWords?: boolean
  /** A time that people read (milliseconds since 1970), by the clock of the house. */
  timeOf: (at: number) => string
  /** In the operator's language. */
  t: Speaker
}

/** In words, and how the call's way ended where that is the last that is heard of it. */
type Told = string | { text: string, ending: Ending }

type CallEvent = Extract<NumberedEvent, { call: string }>

/**
 * What an event means to one operator, in words: nothing where it is no concern of theirs. Nobody comes to their track, leaves it, is parked by them or
 * joins them in silence.
 * @param before the call as it was before the event
 */
export function tidingsOf(scene: Scene, event: NumberedEvent, before: Call | undefined): Tiding[] {
  if (!('call' in event)) return []
  const { state, device } = scene
  const heard = listeningWords(scene, event) ?? recordingWords(scene, event)
  if (heard) return [{ about: event.call, text: heard, rank: 'urgent', leaves: null }]
  const left = state.calls.get(event.call)
  // Whoever hangs up leaves first, and then the call is over: that is one thing to tell.
  if (event.type === 'callCleared' && before && before.connections.length < 2) return []
  // A colleague who lets it ring in vain leaves the caller alone for a moment: the call goes on, to the next or back.
  const isOver = event.type === 'connectionCleared' && left && left.connections.length < 2 && (event.device === left.calling || !left.passing)
  const after = isOver ? undefined : left
  const was = before ? stretchOf(state, before, device) : null
  const is = after ? stretchOf(state, after, device) : null
  const tell = (told: Told | null, rank: Rank, leaves: Stretch | null = null): Tiding[] =>
    told ? [{ about: event.call, ...typeof told === 'string' ? { text: told } : told, rank, leaves }] : []
  if (after && is === 'arriving' && was !== 'arriving') {
    const [tiding] = tell(arrives(scene, after), after.recall ? 'urgent' : 'calls')
    return [{ ...tiding!, ...!after.recall && !isPrompt(after) && { arrival: { ...waitOf(scene, after), since: event.at } } }]
  }
  // Carried elsewhere by one's own hand: said as that (`acts.ts`).
  if (event.type === 'transferred' && event.by === device) return []
  // Whom one has, and how to greet them, is said before all else.
  if (event.device === device && event.type !== 'failed') return tell(doneByOneself(scene, event, before, after), event.type === 'established' ? 'now' : 'own')
  if (before && was && is !== was) return tell(leaves(scene, event, before, was, after !== undefined), was === 'inHand' ? 'urgent' : 'calls', was)
  if (after && is === 'passedOn' && event.type === 'established') return tell(taken(scene, event, after), 'calls')
  if (before?.parked && !after?.parked && before.parked.by === device) return tell(leavesSlot(scene, event, before, after !== undefined), 'calls')
  if (after && is === 'inHand') return tell(amongUs(scene, event, before, after), 'urgent')
  return []
}

/** What is said to whoever listens to a call, and to the colleague to whom they whisper. */
function listeningWords({ state, device, nameOf, t }: Scene, event: CallEvent): string | null {
  const listening = state.listenings.get(event.device)
  if (event.type === 'whisperBegun' && listening?.to === device) return t('tidings.whispersToYou', { name: nameOf(event.device) })
  if (event.device !== device) return null
  switch (event.type) {
    case 'listeningBegun': return t('tidings.youListenTo', { name: nameOf(event.to) })
    case 'listeningEnded': return t('tidings.youListenNoMore')
    case 'whisperBegun': return t('tidings.youWhisperTo', { name: nameOf(listening!.to) })
    case 'whisperEnded': return t('tidings.youWhisperNoMore')
    default: return null
  }
}

/** That one's own call is recorded from now on, or no longer: whoever began it. */
function recordingWords({ state, device, t }: Scene, event: CallEvent): string | null {
  const call = state.calls.get(event.call)
  if (!call || !connectionOf(call, device)) return null
  if (event.type === 'recordingStopped') return t('tidings.theCallIsRecordedNoMore')
  return event.type === 'recordingStarted' ? t('tidings.theCallIsRecorded') : null
}

/** Who waits, and where they have arrived. */
function waitOf(scene: Scene, call: Call): Wait {
  const queue = queueOf(call)?.device
  const line = queue === undefined || queue === scene.state.company.settings.operators ? scene.lineName(call) : scene.nameOf(queue)
  return { name: nameIn(scene, call), line, since: call.created, held: false }
}

/** The other side of a call, as the operator is told of it. */
export function nameIn(scene: Scene, call: Call): string {
  const name = otherName(scene.t, call, scene.device, scene.nameOf)
  return scene.hasTwin?.(name) ? apart(scene.t, name, call, scene.lineName(call)) : name
}

function arrives(scene: Scene, call: Call): string {
  const name = nameIn(scene, call)
  if (isPrompt(call)) return scene.t('tidings.toBeCalledBackAnswer', { name })
  if (!call.recall) return `${waitOf(scene, call).line}: ${name}${promisedTo(scene.state, call).length > 0 ? scene.t('tidings.promisedACallBack') : ''}`
  const story = tellRecall(scene.t, call.recall, scene.nameOf, scene.state.company.settings.ringCycle)
  return call.recall.to === scene.device
    ? scene.t('tidings.backNameStory', { name, story })
    : scene.t('tidings.backFor', { name: scene.nameOf(call.recall.to), name2: name, story })
}

function doneByOneself(scene: Scene, event: CallEvent, before: Call | undefined, after: Call | undefined): string | null {
  const name = nameIn(scene, after ?? before!)
  switch (event.type) {
    case 'established': {
      if (before?.parked) return scene.t('tidings.youHaveFrom', { name, name2: scene.nameOf(before.parked.slot) })
      if (before?.passing) return scene.t('tidings.youTookBack', { name })
      const greeting = after && scene.greeting(after)
      return scene.t('tidings.youHave', { name, more: greeting ? `${name.endsWith('.') ? '' : '.'} ${greeting}` : '' })
    }
    case 'promptAnswered': return scene.t('tidings.callingBack', { name })
    case 'held': return scene.t('tidings.onHold', { name })
    case 'retrieved': return scene.t('tidings.nameAgain', { name })
    case 'parked': return scene.t('tidings.parkedIn', {
      name, name2: scene.nameOf(event.slot), more: event.for ? scene.t('tidings.keptFor', { name: scene.nameOf(event.for) }) : '',
    })
    case 'transferred': return scene.t('tidings.namePassedOnToName2', { name, name2: scene.nameOf(event.to) })
    case 'intruded': return after ? scene.t('tidings.youHaveJoined', { names: namesIn(scene, after) }) : null
    case 'conferenced': return after ? scene.t('tidings.conferenceNames', { names: namesIn(scene, after) }) : null
    case 'refused': return scene.t('tidings.leftToTheOthers', { name })
    case 'diverted': return event.cause === 'declined' ? scene.t('tidings.nameDeclined', { name }) : null
    case 'connectionCleared': return after
      ? scene.t('tidings.youHaveLeft', { names: namesIn(scene, before!) })
      : scene.t('tidings.nameEnded', { name: nameIn(scene, before!) })
    case 'callCleared': return scene.t('tidings.nameEnded', { name: nameIn(scene, before!) })
    default: return null
  }
}

/** The others in a call by name. */
function namesIn({ device, nameOf }: Scene, call: Call): string {
  return othersOf(call, device).filter(other => !other.invitedBy).map(other => nameOf(other.device, other.party)).join(', ')
}

/** @param goesOn the call is not over: what becomes of it is told when it comes somewhere */
function leaves(scene: Scene, event: CallEvent, before: Call, was: Stretch, goesOn: boolean): Told | null {
  const name = nameIn(scene, before)
  if (event.type === 'established' && was === 'passedOn') return taken(scene, event, before)
  if (event.type === 'established') return scene.t('tidings.somebodyHas', { who: scene.nameOf(event.device), name })
  if (event.type === 'diverted' && was !== 'passedOn') return scene.t('tidings.wentTo', {
    name, name2: scene.nameOf(event.to), because: wentBecause(scene, event.cause),
  })
  if (event.type === 'transferred') return passedByOther(scene, event, name)
  if (event.type === 'failed' && event.device === scene.device) return event.cause === 'declined'
    ? scene.t('tidings.nameDeclined', { name })
    : scene.t('tidings.wasNotAnsweredHere', { name })
  if (goesOn) return null
  if (event.type === 'callCleared' && event.cause === 'callBack') return scene.t('tidings.leftToBeCalledBack', { name })
  if (isPrompt(before)) return scene.t('tidings.isToBeCalledBack', { name })
  const ending: Ending = { how: 'gaveUp', name }
  if (was === 'passedOn') return { text: scene.t('tidings.gaveUpWhileItRang', { name }), ending }
  if (was === 'arriving') return { text: scene.t('tidings.gaveUpAfter', { name, waited: spell(event.at - before.created) }), ending }
  return connectionOf(before, scene.device)?.state === 'held' ? scene.t('tidings.hungUpWhileOnHold', { name }) : scene.t('tidings.hungUp', { name })
}

function passedByOther(scene: Scene, event: Extract<CallEvent, { type: 'transferred' }>, name: string): string {
  return scene.t('tidings.namePassedName2OnToName3', { name: scene.nameOf(event.by ?? event.device), name2: name, name3: scene.nameOf(event.to) })
}

/** Why a rule has sent a caller on, as far as it has words of its own. */
function wentBecause(scene: Scene, cause: Cause): string {
  const why: Partial<Record<Cause, PlainKey>> = {
    nobodyServes: 'tidings.nobodyServesTheLine', closed: 'tidings.itIsClosed', overflow: 'tidings.theyHadWaitedTooLong', unattended: 'tidings.nobodyWasThere',
    noAnswer: 'tidings.nobodyAnswered',
  }
  return why[cause] ? `: ${scene.t(why[cause])}` : ''
}

/** Who took a call that one has passed on. */
function taken(scene: Scene, event: CallEvent, call: Call): Told {
  const caller = nameIn(scene, call)
  const taker = scene.nameOf(event.device, connectionOf(call, event.device)?.party)
  if (isMailbox(event.device)) return { text: scene.t('tidings.isLeavingAMessage', { caller, taker }), ending: { how: 'leavesMessage', name: caller } }
  const text = scene.t('tidings.tookItIsTalkingTo', { taker, caller, where: scene.departmentOf(event.device) ?? taker })
  return { text, ending: { how: 'taken', name: caller } }
}

/** @param goesOn the call is not over: where a rule takes it, or a timer brings it back, is told when it comes there */
function leavesSlot(scene: Scene, event: CallEvent, before: Call, goesOn: boolean): Told | null {
  const name = scene.nameOf(before.calling, before.party)
  const slot = scene.nameOf(before.parked!.slot)
  if (!goesOn) return { text: scene.t('tidings.gaveUpIn', { name, slot }), ending: { how: 'gaveUp', name } }
  if (event.type === 'established')
    return { text: scene.t('tidings.tookFrom', { name: scene.nameOf(event.device), name2: name, slot }), ending: { how: 'taken', name } }
  return event.type === 'transferred' ? passedByOther(scene, event, name) : null
}

/** What others do in a call that one is in. */
function amongUs(scene: Scene, event: CallEvent, before: Call | undefined, after: Call): string | null {
  const { device, nameOf } = scene
  const who = nameOf(event.device, connectionOf(before ?? after, event.device)?.party ?? connectionOf(after, event.device)?.party)
  const asks = after.consultation && after.calling === device
  switch (event.type) {
    case 'established':
      if (event.byItself) return scene.t('tidings.hearsYouNobodyHasLifted', { who })
      return othersOf(after, device).length > 1 ? scene.t('tidings.whoJoined', { who }) : scene.t('tidings.whoAnswered', { who })
    case 'intruded': return scene.t('tidings.whoJoined', { who })
    case 'microphoneMute': return before && unliftedIn(before)?.device === event.device && !event.on ? scene.t('tidings.isThere', { who }) : null
    // What callers say stands in for their voice.
    case 'callInformation': return scene.saysWords ? spoken(scene.t, event.text) : null
    case 'failed': return `${who} ${scene.t(whyFailed[event.cause] ?? 'tidings.cantBeReached')}${asks ? `. ${scene.t('tidings.yourCallerIsOnHold')}` : ''}`
    case 'connectionCleared': return asks ? scene.t('tidings.hungUpYourCallerIs', { who }) : scene.t('tidings.whoLeft', { who })
    default: return null
  }
}

/**
 * At how many times its promise a caller is told of: one on hold is forgotten most easily; of those who wait there are many, who can be asked for by a key, and
 * ten of them must leave time to listen to a caller.
 */
const steps = { hold: [1, 1.5, 2, 3, 5, 8, 12, 20], others: [1, 3, 8, 20] }

/**
 * What is said of a ribbon whose promise has been broken once more since the last look; null when it has not.
 * @param from the moment of the last look
 */
export function lateness(scene: Scene, { call, due, stretch }: Ribbon, from: number, now: number): Announcement | null {
  if (stretch === 'passedOn' || due.promise === null) return null
  const held = due.waiting === 'hold'
  const crossed = steps[held ? 'hold' : 'others'].some(step => urgency(due, from) < step && urgency(due, now) >= step)
  if (!crossed) return null
  const wait = { ...waitOf(scene, call), since: due.since, held }
  const line = held || call.recall ? '' : `, ${wait.line},`
  return { text: scene.t('tidings.nameLineMoreForTime', {
    name: wait.name, line, how: scene.t(held ? 'common.onHold' : 'tidings.waiting'), time: spell(now - due.since),
  }), rank: 'waits', about: call.id, wait }
}
