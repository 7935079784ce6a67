import type { EntityManager } from '@mikro-orm/postgresql'
import { missedOutcomes } from '../core/calls/record'
import { readCompany } from '../server/company/rows'
import { Account } from '../server/database/entities'
import { connectDatabase } from '../server/database/orm'
import { writeItems } from '../server/journal/items'
import { epochOf, historyOf, weekOf } from './history'

/**
 * The command that makes up the months before the demo began, the newest week first, each whole or not at all: people use the console meanwhile. Ended, it
 * goes on the next time where it was. NUXT_DATABASE_URL holds the database as the server uses it.
 */
const seed = 7
const batch = 500
const hour = 3_600_000
/** The journal has met these weeks, in their order, before whatever it meets while it runs: their places are below all others. */
const everyWeek = 1_000_000

const url = process.env.NUXT_DATABASE_URL
if (!url) {
  console.error('Set NUXT_DATABASE_URL to the database as the server uses it.')
  process.exit(2)
}
/** Whoever has started it has gone. */
const isLeft = () => process.exit(1)
process.once('disconnect', isLeft)
const orm = await connectDatabase(url)
try {
  for (;;) if (!await orm.em.fork().transactional(makeUpOne)) break
}
finally {
  await orm.close(true)
}
// Ended by oneself, everything is there: that is no failure.
process.off('disconnect', isLeft)
if (process.connected) process.disconnect()

/** The newest week that is not there yet; false when there is none. Two that make it up at once come one after the other. */
async function makeUpOne(tx: EntityManager): Promise<boolean> {
  const [asked] = await tx.execute<{ weeks: number, done: number, until: string }[]>('select weeks, done, until from history_under_way for update')
  if (!asked || asked.done >= asked.weeks) return false
  const until = new Date(asked.until).getTime()
  const week = weekOf(until) - asked.done
  for (const items of historyOf(await readCompany(orm.em.fork()), { seed, week, until }))
    for (let first = 0; first < items.length; first += batch) await writeItems(tx, items.slice(first, first + batch), week - everyWeek)
  const tomas = await tx.findOneOrFail(Account, { signIn: 'tomas' })
  await tx.execute(
    `insert into dealt_with (call, by, by_name, at, called_back)
     select id, ?, ?, ended_at + interval '20 minutes', number is not null from call_record where epoch = ? and outcome = any(?) and started_at < ?`,
    [tomas.signIn, tomas.name, epochOf(week), `{${missedOutcomes.join(',')}}`, new Date(until - 30 * hour)],
  )
  await tx.execute('update history_under_way set done = done + 1')
  await tx.execute('select pg_notify(\'history\', \'\')')
  return true
}
