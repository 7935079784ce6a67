import { phrase } from '../../words/phrase'
import type { Telephone } from '../company/company'
import { accept, holdingTheRest, refuse } from './answers'
import type { CallBackId, CallEvent, CallId, Decision, ExchangeState } from './model'
import { callsOf, isConnected } from './questions'
import { fromSlot, reach, type Target, targetOf } from './targets'
import { plainText } from './text'

/** How a call begins at a telephone of ours, and what the next one is named. */

const longestNumber = 40
/** A telephone that is busy for others can still begin a call or two beside the one it has. */
const besides = 2

export function callIdOf(state: ExchangeState): CallId {
  return `${state.epoch}-${state.serial + 1}`
}

/** The number inside that reaches a destination, however it was named. */
function digitsOf(target: Target): string | null {
  return target.kind === 'device' ? target.telephone.number : target.kind === 'group' ? target.group.number : null
}

interface Beginning { except: string[], consultation?: CallId, account?: string, callBack?: CallBackId, withheld?: true }

/** Calls whoever is named by `number`; `except`: who is not rung as a member of a group. */
export function beginCall(state: ExchangeState, device: Telephone, number: string, { except, ...more }: Beginning): Decision {
  if (!isConnected(state, device.id)) return refuse('outOfService', phrase('refusals.yourTelephoneIsNotConnected'))
  const target = targetOf(state, number)
  const emergency = !('refusal' in target) && target.kind === 'outside' && target.short?.emergency
  if (!emergency && callsOf(state, device.id).length >= device.capacity + besides) {
    return refuse('tooManyCalls', phrase('refusals.youHaveAsManyCalls'))
  }
  if ('refusal' in target) return target
  if (target.id === device.id) return refuse('toSelf', phrase('refusals.thatIsYourOwnExtension'))
  const holding = holdingTheRest(state, device.id)
  if (target.kind === 'mailbox') return refuse('notPossibleNow', phrase('refusals.aVoicemailTakesCallersIt'))
  if (target.kind === 'slot') {
    return more.consultation ? refuse('notPossibleNow', phrase('refusals.aParkSlotCantBe')) : fromSlot(state, device.id, target.slot, holding)
  }
  const call = callIdOf(state)
  const direction = target.kind === 'outside' ? 'outbound' : 'internal'
  const originated: CallEvent = {
    type: 'originated',
    call,
    device: device.id,
    direction,
    dialled: digitsOf(target) ?? plainText(number, longestNumber),
    line: null,
    ...more,
  }
  // The leg of an outside party is counted after the call itself.
  const after = { ...state, serial: state.serial + 1 }
  const outside = target.kind === 'outside' ? targetOf(after, number) : target
  if ('refusal' in outside) return outside
  const reached = reach(after, outside, { call, number: device.number, except: [device.id, ...except] })
  if ('events' in reached) return accept(...holding, originated, ...reached.events)
  // A telephone that is there and busy is heard as a tone, like on any telephone; everything else is refused before it begins.
  if (!reached.cause) return refuse(reached.refusal.code, reached.refusal.why)
  return accept(...holding, originated, { type: 'failed', call, device: target.id, cause: reached.cause })
}
