import { randomUUID } from 'node:crypto'
import type { MikroORM } from '@mikro-orm/postgresql'
import { promiseOf } from '~~/core/calls/call-backs/call-backs'
import type { ExchangeState, Mailbox, Request } from '~~/core/calls/model'
import { briefly } from '../database/away'
import { BlockedNumber, CallBackRow } from '../database/entities'
import type { ExchangeLink } from './link'

const pause = 2_000
/** So often what the exchange does not take is told again. */
const mostAttempts = 5

/**
 * Tells an exchange that has begun anew what outlives it: blocked numbers, promises to call back and what mailboxes say, as soon as the database can say
 * them and knows of all that was lifted, or kept, before.
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
  for (let attempt = 1; stillWanted(); attempt++) {
    try {
      await written()
      const requests = await whatIsKept(orm, state())
      const refused: string[] = []
      for (const [name, request] of requests) {
        // One that can't be told must not keep the others back.
        if (stillWanted()) await link.request(`${name}:${randomUUID()}`, request).catch((error: unknown) => refused.push(`${name}: ${briefly(error)}`))
      }
      if (refused.length === 0) return
      log(`blocks, call-backs and greetings: the exchange did not take ${refused.join('; ')}`)
      if (attempt >= mostAttempts) return
    }
    catch (error) {
      log(`blocks, call-backs and greetings: the exchange is not told yet: ${briefly(error)}`)
    }
    await new Promise(resolve => setTimeout(resolve, pause))
  }
}

/** What the exchange does not know of all that outlives it. */
async function whatIsKept(orm: MikroORM, known: ExchangeState): Promise<[string, Request][]> {
  const em = orm.em.fork()
  const blocks = (await em.find(BlockedNumber, {})).filter(({ number }) => !known.blocked.has(number))
  const promises = (await em.find(CallBackRow, { end: null })).filter(({ id }) => !promiseOf(known, id))
  const mailboxes = (await em.execute<{ device: string, greetings: Mailbox['greetings'], keys: Mailbox['keys'] }[]>(
    'select device, greetings, keys from mailbox',
  )).filter(({ device }) => known.devices.has(device) && !known.devices.get(device)!.mailbox)
  return [
    ...mailboxes.map(({ device, greetings, keys }): [string, Request] => ['mailbox', { service: 'restoreMailbox', of: device, greetings, keys }]),
    ...blocks.map(({ number, reason, by }): [string, Request] => ['block', { service: 'restoreBlock', number, reason, by }]),
    ...promises.map(({ id, number, name, line, queue, since, promisedAt, by, assigned, tries, notBefore, epoch }): [string, Request] => ['callBack', {
      service: 'restoreCallBack', id, party: { number: number ?? null, name: name ?? null }, line: line ?? null, queue, by: by ?? null,
      assigned: assigned ?? null, tries, epoch, since: since.getTime(), promisedAt: promisedAt.getTime(), notBefore: notBefore?.getTime() ?? null,
    }]),
  ]
}
