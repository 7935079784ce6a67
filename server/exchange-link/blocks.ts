import { randomUUID } from 'node:crypto'
import type { MikroORM } from '@mikro-orm/postgresql'
import { briefly } from '../database/away'
import { BlockedNumber } from '../database/entities'
import type { ExchangeLink } from './link'

const pause = 2_000

/**
 * Tells an exchange that has begun anew the blocked numbers that outlive it, as soon as the database can say them and knows of every block lifted before.
 * @param written resolves when everything that has happened so far is in the database, and throws while that can't be
 * @param known what the exchange knows; @param stillWanted false when there is another exchange by now, or none
 */
export async function tellBlocks(
  orm: MikroORM,
  written: () => Promise<void>,
  link: ExchangeLink,
  known: (number: string) => boolean,
  stillWanted: () => boolean,
  log: (text: string) => void,
): Promise<void> {
  while (stillWanted()) {
    try {
      await written()
      for (const { number, reason, by } of await orm.em.fork().find(BlockedNumber, {})) {
        if (!known(number)) await link.request(`block:${randomUUID()}`, { service: 'blockNumber', device: by, number, reason })
      }
      return
    }
    catch (error) {
      log(`blocks: the exchange is not told yet: ${briefly(error)}`)
      await new Promise(resolve => setTimeout(resolve, pause))
    }
  }
}
