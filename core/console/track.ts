import type { Call, CallId, DeviceId, ExchangeState } from '../calls/model'
import { type Due, dueOf, urgency } from '../queues/promises'
import { callsByAge, isConversation, partnerOf, talkingCallOf } from '../calls/questions'
import { stretchOf, type Stretch } from '../calls/stretches'

/** A call as it lies on the operator's track. */
export interface Ribbon {
  call: Call
  stretch: Stretch
  due: Due
}

/** The operator's own calls, in the order in which they are shown, and those that keys act on. */
export interface Track {
  /** The most urgent first. */
  arriving: Ribbon[]
  /** Who is talked to first; a caller next to the colleague who is being asked for them. */
  inHand: Ribbon[]
  passedOn: Ribbon[]
  /** On hold, the longest first. */
  held: Ribbon[]
  talking: Call | null
  /** The call on which a colleague is being asked about a caller who waits, whether one talks to the colleague or has swapped back. */
  consultation: Call | null
  /** The caller whom it is for. */
  askedFor: Call | null
  carried: Call | null
  /** What Enter answers when nothing has been typed. */
  next: Ribbon | null
  /** The call that keys hold, mute and end: the one talked on, or on which somebody is rung. */
  open: Ribbon | null
  /** True when it was chosen by hand. */
  chosen: boolean
  /** The call that goes wherever is said: the one carried, the caller one asks for, the one in hand, or the only one on hold. */
  baton: Call | null
}

export const emptyTrack: Track = {
  arriving: [],
  inHand: [],
  passedOn: [],
  held: [],
  talking: null,
  consultation: null,
  askedFor: null,
  carried: null,
  next: null,
  open: null,
  chosen: false,
  baton: null,
}

/** What the operator has chosen by hand: an arriving call, and a call to carry. */
export interface Chosen { next: CallId | null, carried: CallId | null }

/**
 * The track of one operator.
 * @param now the exchange's time: what is late comes first
 * @param kept the arriving as they are shown, while a hand rests on them: they keep their order, and who comes stands behind them
 */
export function trackOf(state: ExchangeState, device: DeviceId, chosen: Chosen, now: number, kept: readonly CallId[] = []): Track {
  const ribbons = callsByAge(state).flatMap((call): Ribbon[] => {
    const stretch = stretchOf(state, call, device)
    if (!stretch) return []
    const promise = call.line === null ? undefined : state.company.lines[call.line]?.promise
    return [{ call, stretch, due: dueOf(state, call, device, promise ?? null) }]
  })
  const turn = ({ call, stretch }: Ribbon) => stretch === 'arriving' ? call.turn ?? 0 : 0
  const byUrgency = (a: Ribbon, b: Ribbon) => turn(a) - turn(b) || urgency(b.due, now) - urgency(a.due, now) || a.due.since - b.due.since
  const place = ({ call }: Ribbon) => kept.includes(call.id) ? kept.indexOf(call.id) : kept.length
  const arriving = ribbons.filter(({ stretch }) => stretch === 'arriving').sort((a, b) => place(a) - place(b) || byUrgency(a, b))
  const talking = talkingCallOf(state, device) ?? null
  const asked = ribbons.flatMap(({ call, stretch }) => stretch === 'inHand' && call.consultation && call.calling === device ? [call] : [])
  const consultation = asked.find(call => call === talking || call.consultation === talking?.id) ?? asked[0] ?? null
  const askedFor = consultation ? state.calls.get(consultation.consultation!) ?? null : null
  const rank = ({ call, due }: Ribbon) => call.id === consultation?.id ? 1 : call.id === askedFor?.id ? 2 : due.waiting === 'hold' ? 3 : 0
  const inHand = ribbons.filter(({ stretch }) => stretch === 'inHand').sort((a, b) => rank(a) - rank(b) || a.due.since - b.due.since)
  const held = inHand.filter(({ due }) => due.waiting === 'hold').sort((a, b) => a.due.since - b.due.since)
  const carried = chosen.carried ? state.calls.get(chosen.carried) ?? null : null
  const picked = arriving.find(({ call }) => call.id === chosen.next)
  return {
    arriving, inHand, held, talking, consultation, askedFor, carried,
    passedOn: ribbons.filter(({ stretch }) => stretch === 'passedOn').sort(byUrgency),
    next: picked ?? arriving[0] ?? null,
    chosen: picked !== undefined,
    open: inHand.find(({ call }) => call.id === talking?.id) ?? null,
    baton: carried ?? askedFor ?? inHandToPass(talking, held, device),
  }
}

function inHandToPass(talking: Call | null, held: Ribbon[], device: DeviceId): Call | null {
  if (talking) return isConversation(talking) && partnerOf(talking, device) ? talking : null
  return held.length === 1 ? held[0]!.call : null
}
