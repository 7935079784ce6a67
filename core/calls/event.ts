import type { Call, EventOf, EventName, ExchangeState, NumberedEvent, Step } from './model'

/** One kind of event: what it makes of the state, and what others may see of it. */
export interface EventKind<E extends EventName> {
  /** What it makes of the call that it is about, when that goes on. `joined`: the call that becomes part of it. */
  change?: (call: Call, event: EventOf<E>, joined: Call | undefined) => Call
  /** What it makes of the state when it is about more, or less, than one call that goes on. `next` has its number and time already. */
  evolve?: (state: ExchangeState, next: ExchangeState, event: EventOf<E>) => ExchangeState
  /** It is told in the story of its call, with these differences from what its fields say. */
  step?: (event: EventOf<E>) => StepOf<E>
  /** The event as somebody may know it who sees no callers. */
  redact?: (event: EventOf<E>) => NumberedEvent
  /** What of a call that it left there they may not see. */
  redactCall?: (call: Call) => Call
  /** The same of the rest of the state. */
  redactState?: (state: ExchangeState) => ExchangeState
}

/** A kind of event whose name is none of a step's says whose name it takes: what a story must tell can't be left out of the list of steps. */
type StepOf<E extends EventName> = [E] extends [Step['type']] ? Partial<Step> : Partial<Step> & Pick<Step, 'type'>

/** Nothing is different. */
export const told = () => ({})
