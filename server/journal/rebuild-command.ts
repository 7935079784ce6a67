import { connectDatabase } from '../database/orm'
import { rebuild } from './rebuild'

/** The command behind `npm run rebuild`: makes again, from the journal, what is made from it. */
const url = process.env.DATABASE_OWNER_URL
if (!url) {
  console.error('Set DATABASE_OWNER_URL to the database, as the role that owns it.')
  process.exit(2)
}
const orm = await connectDatabase(url, { query: 0 })
try {
  const { events, epochs } = await rebuild(orm)
  console.log(`Made again from ${events} events of ${epochs} ${epochs === 1 ? 'run' : 'runs'} of the exchange.`)
}
finally {
  await orm.close(true)
}
