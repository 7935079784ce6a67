import type { EntityManager } from '@mikro-orm/postgresql'
import { refuseLate } from './away'

/** What has to be done one after the other, by name: the last of those that wait here. */
const last = new Map<string, Promise<unknown>>()

/**
 * A transaction that no other of the same name overlaps, on whichever server. Whoever waits for another one here has no connection meanwhile, so that however
 * many come at once, everything else goes on.
 */
export function inTurn<T>(em: EntityManager, name: string, work: (tx: EntityManager) => Promise<T>): Promise<T> {
  const before = last.get(name) ?? Promise.resolve()
  const mine = before.then(() => {}, () => {}).then(() => {
    refuseLate()
    return em.transactional(async (tx) => {
      // Other servers have turns of their own.
      await tx.execute('select pg_advisory_xact_lock(hashtext(?))', [name])
      return work(tx)
    })
  })
  last.set(name, mine)
  const over = () => {
    if (last.get(name) === mine) last.delete(name)
  }
  mine.then(over, over)
  return mine
}
