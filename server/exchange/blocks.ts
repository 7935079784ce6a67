import type { MikroORM } from '@mikro-orm/postgresql'
import type { NumberedEvent } from '~~/core/calls/model'
import { BlockedNumber } from '../database/entities'
import type { ExchangeLink } from './link'

/** Blocked numbers outlive the exchange: kept in the database, told to an exchange that does not know them. */
export class Blocks {
  constructor(private readonly orm: MikroORM, private readonly log: (text: string) => void) {}

  async keep(event: NumberedEvent): Promise<void> {
    try {
      const em = this.orm.em.fork()
      if (event.type === 'numberBlocked') await em.upsert(BlockedNumber, { number: event.number, reason: event.reason, by: event.device, at: new Date(event.at) })
      else if (event.type === 'numberUnblocked') await em.nativeDelete(BlockedNumber, { number: event.number })
    }
    catch (error) {
      this.log(`blocks: not kept: ${(error as Error).message}`)
    }
  }

  async tell(link: ExchangeLink, known: Record<string, unknown>): Promise<void> {
    try {
      for (const { number, reason, by } of await this.orm.em.fork().find(BlockedNumber, {})) {
        if (!Object.hasOwn(known, number)) await link.request(`block:${number}:${Date.now()}`, { service: 'blockNumber', device: by, number, reason })
      }
    }
    catch (error) {
      this.log(`blocks: the exchange was not told: ${(error as Error).message}`)
    }
  }
}
