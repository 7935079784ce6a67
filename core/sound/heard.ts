import type { Call, Cause, Connection, DeviceId, ExchangeState } from '../calls/model'
import { isMailbox } from '../calls/names'
import { listenersOf, whisperersTo } from '../calls/listening/listenings'
import { hearersOf, openPages, pagesHeardAt } from '../calls/paging/pages'
import { callsOf, connectionOf, isConversation } from '../calls/questions'
import type { Settings } from '../company/schema'
import { type ToneKind, tonesOfCountry } from './country-tones'
import { readTone, type Tone } from './tone'

/** Who hears whom and what, by the state alone: there is no sound in it. */

/** What one ear hears at one moment. */
export interface Heard {
  /** Whose microphones, in the order of their call. */
  voices: DeviceId[]
  /** Who speaks here on a page, whether or not one talks. */
  page: DeviceId | null
  /** Who whispers to whoever is here; nobody else hears it. */
  whispers: DeviceId[]
  /** Music while one waits: on hold, or in a park slot. */
  music: boolean
  tone: ToneKind | null
  /**
   * `place`: is told between two rings where one stands in the queue; `line`: what the line says to whoever calls it, until somebody has answered;
   * `mailbox`: its greeting, and then its tone; `notice`: a tone says that somebody listens, or that the call is recorded.
   */
  announcement: 'place' | 'line' | 'mailbox' | 'notice' | null
}

const silence: Heard = { voices: [], page: null, whispers: [], music: false, tone: null, announcement: null }

const loudspeakerPrefix = 'loudspeaker:'

/** A loudspeaker as an ear, by its name in the zones of the company. */
export const loudspeakerEar = (speaker: string) => `${loudspeakerPrefix}${speaker}`
export const isLoudspeakerEar = (ear: string) => ear.startsWith(loudspeakerPrefix)

/** The call that is heard at a telephone, or by a party outside: by law there is one at most. */
export function callHeardAt(state: ExchangeState, ear: DeviceId): Call | undefined {
  return callsOf(state, ear).find(candidate => connectionOf(candidate, ear)?.state === 'connected')
}

/** Whether a microphone is open on a call: what is said there may be meant for somebody. */
export function speaksOnCall(state: ExchangeState, device: DeviceId): boolean {
  const call = callHeardAt(state, device)
  return call ? !connectionOf(call, device)!.muted : state.listenings.get(device)?.whispers ?? false
}

/** What is heard at a telephone, or by a party outside: of its calls the one on which it is connected, and a page; at a loudspeaker a page. */
export function heardBy(state: ExchangeState, ear: DeviceId): Heard {
  if (isLoudspeakerEar(ear)) return { ...silence, page: heardAtLoudspeaker(state, ear.slice(loudspeakerPrefix.length)) }
  const call = callHeardAt(state, ear)
  // By law an ear hears one page.
  const [page] = pagesHeardAt(state, ear)
  const heard = call ? heardIn(state, call, ear) : heardListening(state, ear)
  return { ...heard, page: page?.by ?? null, whispers: call ? whisperersTo(state, ear, call) : [] }
}

/** What whoever listens hears: those who talk on the call, the colleague among them, and no whisper of others. */
function heardListening(state: ExchangeState, ear: DeviceId): Heard {
  const listening = state.listenings.get(ear)
  const call = listening && state.calls.get(listening.call)
  const own = call && connectionOf(call, listening.to)
  if (own?.state !== 'connected' || !isConversation(call!)) return silence
  return { ...silence, voices: [...speakersIn(call!, own.device), ...own.muted ? [] : [own.device]] }
}

/** What everybody in a call has been told of last by a tone, while any of it goes on: that it is recorded, or that somebody listens; null: nothing. */
export function noticeOf(state: ExchangeState, call: Call): { of: 'recording' | 'listening', at: number } | null {
  const isListened = state.company.settings.listeningTone && listenersOf(state, call).length > 0
  if (!call.recording && !isListened) return null
  const step = call.story.findLast(({ type }) => type === 'recordingStarted' || (isListened && type === 'listeningBegun'))
  return step ? { of: step.type === 'recordingStarted' ? 'recording' : 'listening', at: step.at } : null
}

/** What a recording of a call holds: what those who talk say, and nothing while nobody talks with anybody. */
export function heardByRecording(call: Call): DeviceId[] {
  return isConversation(call) ? speakersIn(call, '') : []
}

/** What a mailbox that takes a message on a call writes down. */
export function heardByMailbox(call: Call, mailbox: DeviceId): Heard {
  return { ...silence, voices: speakersIn(call, mailbox) }
}

/** Who speaks at a loudspeaker; null: it is silent. */
export function heardAtLoudspeaker(state: ExchangeState, speaker: string): DeviceId | null {
  return openPages(state).find(page => !state.devices.has(speaker) && hearersOf(state, page).includes(speaker))?.by ?? null
}

function heardIn(state: ExchangeState, call: Call, ear: DeviceId): Heard {
  const others = call.connections.filter(({ device }) => device !== ear)
  const there = others.filter(({ state, device }) => state === 'connected' && !isMailbox(device))
  if (there.length > 0) {
    return { ...silence, voices: speakersIn(call, ear), announcement: noticeOf(state, call) ? 'notice' : null }
  }
  if (others.some(({ device }) => isMailbox(device))) return { ...silence, announcement: 'mailbox' }
  if (call.failed) return { ...silence, tone: toneOfCause[call.failed.cause] ?? 'busy' }
  if (!call.parked && rings(others)) return { ...silence, tone: 'ringing', announcement: call.told ? 'place' : greetsByLine(call, ear) ? 'line' : null }
  return { ...silence, music: call.parked !== null || others.some(({ state }) => state === 'held') }
}

/** Whoever has called a line, and been answered by nobody yet. */
function greetsByLine(call: Call, ear: DeviceId): boolean {
  return call.line !== null && call.direction === 'inbound' && call.calling === ear && !call.story.some(({ type }) => type === 'established')
}

/** Somebody is rung for whoever is on the line, or they wait where somebody is going to be. */
function rings(others: readonly Connection[]): boolean {
  return others.some(({ state, invitedBy }) => state === 'queued' || (state === 'alerting' && !invitedBy))
}

/** Those in a call whose microphones are open, but for one who listens. */
function speakersIn(call: Call, listener: DeviceId): DeviceId[] {
  return call.connections.filter(({ device, state, muted }) => device !== listener && state === 'connected' && !muted && !isMailbox(device))
    .map(({ device }) => device)
}

/** Which tone says why nobody was reached. Whoever is there and does not come is told as one who talks: a caller has no business to know more. */
const toneOfCause: Partial<Record<Cause, ToneKind>> = { outOfService: 'unobtainable', blocked: 'unobtainable', closed: 'unobtainable' }

/** A tone as the house gives it: as it has written it, or as its country does. */
export function toneOf(settings: Pick<Settings, 'country' | 'tones'>, kind: ToneKind): Tone {
  return readTone(settings.tones[kind]) ?? readTone(tonesOfCountry(settings.country)[kind])!
}
