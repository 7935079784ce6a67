import { parseArgs } from 'node:util'
import { connectDatabase } from './orm'

/**
 * The command behind `npm run migrate`: run by the role that owns the database, it brings the schema up to date and gives the server's role what it
 * needs, no more.
 */
const { values } = parseArgs({ options: { 'server-role': { type: 'string' } } })
const url = process.env.DATABASE_OWNER_URL
const role = values['server-role']
if (!url || !role || !/^\w{1,60}$/.test(role)) {
  console.error('Set DATABASE_OWNER_URL to the database, as the role that owns it, and name the role of the server with --server-role.')
  process.exit(2)
}

/** The journal and what was set aside can only grow, whatever the server is made to do. */
const rights = [
  `grant usage on schema public to "${role}"`,
  `grant select, insert, update, delete on all tables in schema public to "${role}"`,
  `revoke update, delete, truncate on journal, journal_state, set_aside, account_change, account_correction, hand_over, hand_over_seen from "${role}"`,
  `revoke insert, update, delete on mikro_orm_migrations from "${role}"`,
]

const orm = await connectDatabase(url)
try {
  await orm.migrator.up()
  for (const statement of rights) await orm.em.fork().execute(statement)
  // After a backup was restored, an exchange that goes on running hears what the company is now.
  await orm.em.fork().execute('update company set version = greatest(version + 1, extract(epoch from now())::bigint)')
}
finally {
  await orm.close(true)
}
