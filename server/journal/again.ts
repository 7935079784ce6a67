import { evolve } from '~~/core/calls/evolve'
import type { ExchangeState } from '~~/core/calls/model'
import { stateOf } from '~~/core/calls/snapshot'
import type { Position } from '~~/shared/feed'
import type { History } from '../exchange-link/link'
import { beginning, gapAfter, itemOf, type JournalItem } from './items'

/**
 * What the journal missed, from what the exchange tells again: every event after `since`, and, where the exchange has begun anew or no longer knows that
 * far, that there is a gap.
 * @param now when that is, in milliseconds since 1970
 * @param known the server's own state: what comes after it comes by itself
 */
export function missedItems({ state, events, complete }: History, since: Position | undefined, now: number, known: ExchangeState | null, most: number): {
  items: JournalItem[]
  all: boolean
} {
  let current = stateOf(state)
  const same = since?.epoch === current.epoch
  const items: JournalItem[] = []
  if (since && !(same && complete)) items.push(gapAfter(since, same ? current.seq + 1 : null, now))
  if (!(same && complete)) items.push(beginning(current, now))
  const from = same && complete ? since.seq : current.seq
  const until = known?.epoch === current.epoch ? known.seq : Infinity
  for (const event of events) {
    if (event.seq > until || items.length >= most) break
    const after = evolve(current, event)
    if (event.seq > from) items.push(itemOf(event, current, after))
    current = after
  }
  return { items, all: known !== null && known.epoch === current.epoch && current.seq >= known.seq }
}
