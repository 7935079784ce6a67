import type { Listening } from '../calls/model'
import { connectionOf, isConversation } from '../calls/questions'
import { ask, type Asked, type Console, type Deed, otherName } from './console'
import type { PlainKey } from '../../words/speaker'

/** What the keys of the call in hand do while nothing is typed. */

type Situation = Pick<Console, 'state' | 'device' | 'track' | 'nameOf' | 't'>

/** What Enter does then, said beforehand: hands over the caller one asks for, or answers; null when it does nothing. */
export function standingDeed({ device, track: { consultation, askedFor, next, chosen }, nameOf, t }: Situation): { words: string, deed: Deed } | null {
  if (consultation && askedFor && !chosen) {
    return {
      words: t('keys.handsOverTo', { name: otherName(t, askedFor, device, nameOf), name2: otherName(t, consultation, device, nameOf) }),
      deed: ask({ service: 'transferCall', call: askedFor.id, consultation: consultation.id }),
    }
  }
  return next ? { words: t('keys.answers', { name: otherName(t, next.call, device, nameOf) }), deed: ask({ service: 'answerCall', call: next.call.id }) } : null
}

/** Holds the call in hand, or takes the longest held back when there is none. */
function holdOrTakeBack({ track: { talking, held } }: Situation): Deed | null {
  if (talking) return isConversation(talking) ? ask({ service: 'holdCall', call: talking.id }) : null
  return held[0] ? ask({ service: 'retrieveCall', call: held[0].call.id }) : null
}

/** To the other side of a consultation, or to who has been on hold longest. */
function swap({ device, track: { askedFor, consultation, held } }: Situation): Deed | null {
  const other = [askedFor, consultation].find(call => call && connectionOf(call, device)?.state === 'held') ?? held[0]?.call
  return other ? ask({ service: 'retrieveCall', call: other.id }) : null
}

/** Back to the caller one asks for, or pulls back the call passed on last while it rings. */
function back({ track: { carried, consultation, passedOn } }: Situation): Deed | null {
  if (carried) return { do: 'carry', call: null }
  if (consultation) return ask({ service: 'reconnectCall', call: consultation.id })
  const [last] = [...passedOn].sort((a, b) => b.due.since - a.due.since)
  return last ? ask({ service: 'directedPickupCall', call: last.call.id }) : null
}

/** Ends the call in hand; refuses the chosen call when there is none. */
function end({ track: { talking, next, chosen } }: Situation): Deed | null {
  if (talking) return { do: 'end', call: talking.id }
  return chosen && next ? ask({ service: 'clearConnection', call: next.call.id }) : null
}

/** Oneself in the call in hand: not heard, or heard again. */
export function mute({ device, track: { talking } }: Situation): Deed | null {
  const own = talking && connectionOf(talking, device)
  return own ? ask({ service: 'setMicrophoneMute', call: talking.id, party: own.device, on: !own.muted }) : null
}

/** Has what is said on the call in hand recorded, or no longer. */
export function record({ track: { talking } }: Situation): Deed | null {
  return talking && ask({ service: talking.recording ? 'stopRecording' : 'startRecording', call: talking.id })
}

/** What a key does for whoever listens to a colleague's call. */
function whileListening({ state, device }: Situation, request: (listening: Listening) => Asked): Deed | null {
  const listening = state.listenings.get(device)
  return listening ? ask(request(listening)) : null
}

/** Makes one conference of the call in hand and of whoever is asked, or has been on hold longest. */
export function joinAll({ track: { talking, consultation, askedFor, held } }: Situation): Deed | null {
  if (!talking) return null
  if (askedFor && consultation) return ask({ service: 'conferenceCall', call: askedFor.id, other: consultation.id })
  return held[0] ? ask({ service: 'conferenceCall', call: talking.id, other: held[0].call.id }) : null
}

function escape({ track: { carried, arriving } }: Situation): Deed | null {
  return carried ? { do: 'carry', call: null } : { do: 'hush', calls: arriving.map(({ call }) => call.id) }
}

/** The key that answers the next caller wherever one is, whatever is being typed. */
export const answerAnywhere = 'Alt+Enter'

const deeds: Record<string, (situation: Situation) => Deed | null> = {
  [answerAnywhere]: ({ track: { next } }) => next && ask({ service: 'answerCall', call: next.call.id }),
  'Enter': situation => standingDeed(situation)?.deed ?? null,
  ' ': holdOrTakeBack,
  'ArrowLeft': swap,
  'Backspace': back,
  'Delete': situation => end(situation) ?? whileListening(situation, () => ({ service: 'stopListening' })),
  'Escape': escape,
  'F2': situation => mute(situation) ?? whileListening(situation, ({ call, whispers }) => ({ service: 'whisper', call, on: !whispers })),
  'F4': ({ track: { baton, talking } }) => ({ do: 'takeMessage', to: null, call: (baton ?? talking)?.id ?? null }),
  'F8': situation => joinAll(situation) ?? whileListening(situation, ({ call }) => ({ service: 'intrudeCall', call })),
  'F9': () => ({ do: 'sendDigits' }),
  '"': record,
}

/**
 * What a key does while nothing is typed: null when there is nothing to do it with, undefined when the key means nothing here.
 * @param key as it is written on buttons, with its modifiers: "Shift+F2"
 */
export function deedOfKey(situation: Situation, key: string): Deed | null | undefined {
  return Object.hasOwn(deeds, key) ? deeds[key]!(situation) : undefined
}

/** Why a key does nothing, said when it is pressed. */
export const nothingToDo: Record<string, PlainKey> = {
  'Enter': 'keys.nobodyIsWaiting',
  [answerAnywhere]: 'keys.nobodyIsWaiting',
  ' ': 'keys.noCallInHandAnd',
  'ArrowLeft': 'keys.nobodyToSwapWith',
  'Backspace': 'keys.nothingToTakeBack',
  'Delete': 'keys.noCallToEnd',
  'F2': 'keys.noCallInHand',
  '"': 'keys.noCallInHand',
  'F8': 'keys.nobodyToJoin',
}

/** A key as it is written on buttons. */
export function nameOfKey({ key, altKey, ctrlKey, shiftKey }: Record<'altKey' | 'ctrlKey' | 'shiftKey', boolean> & { key: string }): string {
  return `${altKey ? 'Alt+' : ''}${ctrlKey ? 'Ctrl+' : ''}${shiftKey && key.length > 1 ? 'Shift+' : ''}${key}`
}
