import { randomUUID } from 'node:crypto'
import type { MikroORM } from '@mikro-orm/postgresql'
import type { ExchangeState } from '~~/core/calls/model'
import { promiseOf } from '~~/core/calls/call-backs'
import { briefly } from '../database/away'
import { BlockedNumber, CallBackRow } from '../database/entities'
import type { ExchangeLink } from './link'

const pause = 2_000

/**
 * Tells an exchange that has begun anew what outlives it: blocked numbers and promises to call back, as soon as the database can say them and knows of all that
 * was lifted, or kept, before.
 * @param written resolves when everything that has happened so far is in the database, and throws while that can't be
 * @param state what the exchange knows; @param stillWanted false when there is another exchange by now, or none
 */
export async function tellWhatIsKept(
  orm: MikroORM,
  written: () => Promise<void>,
  link: ExchangeLink,
  state: () => ExchangeState,
  stillWanted: () => boolean,
  log: (text: string) => void,
): Promise<void> {
  while (stillWanted()) {
    try {
      await written()
      const em = orm.em.fork()
      for (const { number, reason, by } of await em.find(BlockedNumber, {})) {
        if (!state().blocked.has(number)) await link.request(`block:${randomUUID()}`, { service: 'blockNumber', device: by, number, reason })
      }
      for (const { id, number, name, line, queue, since, promisedAt, by, assigned, tries, notBefore, epoch } of await em.find(CallBackRow, { end: null })) {
        if (promiseOf(state(), id)) continue
        await link.request(`callBack:${randomUUID()}`, {
          service: 'restoreCallBack', id, party: { number: number ?? null, name: name ?? null }, line: line ?? null, queue, by: by ?? null,
          assigned: assigned ?? null, tries, epoch,
          since: since.getTime(), promisedAt: promisedAt.getTime(), notBefore: notBefore?.getTime() ?? null,
        })
      }
      return
    }
    catch (error) {
      log(`blocks and call-backs: the exchange is not told yet: ${briefly(error)}`)
      await new Promise(resolve => setTimeout(resolve, pause))
    }
  }
}
