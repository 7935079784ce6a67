import type { EntityManager } from '@mikro-orm/postgresql'
import type { ExchangeState, NumberedEvent } from '~~/core/calls/model'

/**
 * A table that is made from the journal, and can be made again from it. What an event changes in it is written in the journal's own transaction;
 * writing it again changes nothing.
 */
export interface Projection<C extends { kind: string }> {
  /** What an event changes. `after` is the state that it leads to. */
  changes(event: NumberedEvent, before: ExchangeState, after: ExchangeState): C[]
  /** It writes whole rows, of which only the newest counts: those that an event may write, and the one that a change does. */
  whole?: { of: (event: NumberedEvent) => readonly string[], row: (change: C) => string | null }
  /** Writes changes of this projection, in their order. */
  write(em: EntityManager, changes: readonly C[]): Promise<void>
}
