import { isPrompt } from '../calls/call-backs'
import { unliftedIn } from '../calls/intercom'
import type { Call, DeviceId, ExchangeState, NumberedEvent } from '../calls/model'
import { isMailbox } from '../calls/names'
import { urgency } from '../calls/promises'
import { connectionOf, othersOf, queueOf } from '../calls/questions'
import { type Stretch, stretchOf } from '../calls/stretches'
import { tellRecall, whyFailed } from '../calls/story'
import { spell } from '../durations/durations'
import type { Announcement, Rank } from './announcements'
import { promisedTo } from './call-backs'
import { type NameOf, otherName } from './console'
import type { Ribbon } from './track'

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
}

type CallEvent = Extract<NumberedEvent, { call: string }>

/**
 * What an event means to one operator, in words: nothing where it is no concern of theirs. Nobody comes to their track, leaves it, is parked by them or
 * joins them in silence.
 * @param before the call as it was before the event
 */
export function tidingsOf(scene: Scene, event: NumberedEvent, before: Call | undefined): Tiding[] {
  if (!('call' in event)) return []
  const { state, device } = scene
  const left = state.calls.get(event.call)
  // Whoever hangs up leaves first, and then the call is over: that is one thing to tell.
  if (event.type === 'callCleared' && before && before.connections.length < 2) return []
  const after = left && event.type === 'connectionCleared' && left.connections.length < 2 ? undefined : left
  const was = before ? stretchOf(state, before, device) : null
  const is = after ? stretchOf(state, after, device) : null
  const tell = (text: string | null, rank: Rank, leaves: Stretch | null = null): Tiding[] => text ? [{ about: event.call, text, rank, leaves }] : []
  if (after && is === 'arriving' && was !== 'arriving') return tell(arrives(scene, after), after.recall ? 'urgent' : 'calls')
  if (event.device === device && event.type !== 'failed') return tell(doneByOneself(scene, event, before, after), 'own')
  if (before && was && is !== was) return tell(leaves(scene, event, before, was, after !== undefined), was === 'inHand' ? 'urgent' : 'calls', was)
  if (after && is === 'passedOn' && event.type === 'established') return tell(taken(scene, event, after), 'calls')
  if (before?.parked && !after?.parked && before.parked.by === device) return tell(leavesSlot(scene, event, before), 'calls')
  if (after && is === 'inHand') return tell(amongUs(scene, event, before, after), 'urgent')
  return []
}

const nameIn = (scene: Scene, call: Call) => otherName(call, scene.device, scene.nameOf)

function arrives(scene: Scene, call: Call): string {
  const name = nameIn(scene, call)
  if (isPrompt(call)) return `To be called back: ${name}. Answer, and they are rung`
  const queue = queueOf(call)?.device
  const from = queue === undefined || queue === scene.state.company.settings.operators ? scene.lineName(call) : scene.nameOf(queue)
  if (!call.recall) return `${from}: ${name}${promisedTo(scene.state, call).length > 0 ? ', promised a call-back' : ''}`
  const story = tellRecall(call.recall, scene.nameOf, scene.state.company.settings.ringCycle)
  return call.recall.to === scene.device ? `Back: ${name}. ${story}` : `Back for ${scene.nameOf(call.recall.to)}: ${name}. ${story}`
}

function doneByOneself(scene: Scene, event: CallEvent, before: Call | undefined, after: Call | undefined): string | null {
  const name = nameIn(scene, after ?? before!)
  switch (event.type) {
    case 'established': {
      if (before?.parked) return `You have ${name}, from ${scene.nameOf(before.parked.slot)}`
      if (before?.passing) return `You took ${name} back`
      const greeting = after && scene.greeting(after)
      return `You have ${name}${greeting ? `. ${greeting}` : ''}`
    }
    case 'held': return `${name} on hold`
    case 'retrieved': return `${name} again`
    case 'parked': return `${name} parked in ${scene.nameOf(event.slot)}${event.for ? `, kept for ${scene.nameOf(event.for)}` : ''}`
    case 'transferred': return `${name} passed on to ${scene.nameOf(event.to)}`
    case 'conferenced': return after ? `Conference: ${namesIn(scene, after)}` : null
    case 'refused': return `${name} left to the others`
    case 'connectionCleared': return after ? `You have left: ${namesIn(scene, before!)}` : `${nameIn(scene, before!)}: ended`
    case 'callCleared': return `${nameIn(scene, before!)}: ended`
    default: return null
  }
}

/** The others in a call by name. */
function namesIn({ device, nameOf }: Scene, call: Call): string {
  return othersOf(call, device).filter(other => !other.invitedBy).map(other => nameOf(other.device, other.party)).join(', ')
}

/** @param goesOn the call is not over: what becomes of it is told when it comes somewhere */
function leaves(scene: Scene, event: CallEvent, before: Call, was: Stretch, goesOn: boolean): string | null {
  const name = nameIn(scene, before)
  if (event.type === 'established' && was === 'passedOn') return taken(scene, event, before)
  if (event.type === 'established') return `${scene.nameOf(event.device)} has ${name}`
  if (event.type === 'diverted' && was !== 'passedOn') return `${name} went on to ${scene.nameOf(event.to)}`
  if (event.type === 'transferred') return `${scene.nameOf(event.by ?? event.device)} passed ${name} on to ${scene.nameOf(event.to)}`
  if (goesOn) return null
  if (event.type === 'callCleared' && event.cause === 'callBack') return `${name} left, to be called back`
  if (isPrompt(before)) return `${name} is to be called back by somebody else`
  if (was === 'passedOn') return `${name} gave up while it rang`
  const waited = spell(event.at - before.created)
  if (was === 'arriving') return `${name} gave up after ${waited}`
  return connectionOf(before, scene.device)?.state === 'held' ? `${name} hung up while on hold` : `${name} hung up`
}

/** Who took a call that one has passed on. */
function taken(scene: Scene, event: CallEvent, call: Call): string {
  const caller = nameIn(scene, call)
  const taker = scene.nameOf(event.device, connectionOf(call, event.device)?.party)
  if (isMailbox(event.device)) return `${caller} is leaving a message: ${taker}`
  return `${taker} took it: ${caller} is talking to ${scene.departmentOf(event.device) ?? taker}`
}

function leavesSlot(scene: Scene, event: CallEvent, before: Call): string {
  const name = scene.nameOf(before.calling, before.party)
  const slot = scene.nameOf(before.parked!.slot)
  return event.type === 'established' ? `${scene.nameOf(event.device)} took ${name} from ${slot}` : `${name} gave up in ${slot}`
}

/** What others do in a call that one is in. */
function amongUs(scene: Scene, event: CallEvent, before: Call | undefined, after: Call): string | null {
  const { device, nameOf } = scene
  const who = nameOf(event.device, connectionOf(before ?? after, event.device)?.party ?? connectionOf(after, event.device)?.party)
  const asks = after.consultation && after.calling === device
  switch (event.type) {
    case 'established':
      if (event.byItself) return `${who} hears you: nobody has lifted yet`
      return othersOf(after, device).length > 1 ? `${who} joined` : `${who} answered`
    case 'microphoneMute': return before && unliftedIn(before)?.device === event.device && !event.on ? `${who} is there` : null
    case 'failed': return `${who} ${whyFailed[event.cause] ?? 'can\'t be reached'}${asks ? '. Your caller is on hold.' : ''}`
    case 'connectionCleared': return asks ? `${who} hung up. Your caller is on hold.` : `${who} left`
    default: return null
  }
}

/**
 * At how many times its promise a caller is told of: one on hold is forgotten most easily; of those who wait there are many, who can be asked for by a key, and
 * ten of them must leave time to listen to a caller.
 */
const steps = { hold: [1, 1.5, 2, 3, 5, 8, 12, 20], others: [1, 3, 8, 20] }

/**
 * Words for a ribbon whose promise has been broken once more since the last look; null when it has not.
 * @param from the moment of the last look
 */
export function lateness({ device, nameOf }: Pick<Scene, 'device' | 'nameOf'>, { call, due, stretch }: Ribbon, from: number, now: number): string | null {
  if (stretch === 'passedOn' || due.promise === null) return null
  const crossed = steps[due.waiting === 'hold' ? 'hold' : 'others'].some(step => urgency(due, from) < step && urgency(due, now) >= step)
  if (!crossed) return null
  return `${otherName(call, device, nameOf)} ${due.waiting === 'hold' ? 'on hold' : 'waiting'} for ${spell(now - due.since)}`
}
