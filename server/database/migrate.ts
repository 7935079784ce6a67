import { parseArgs } from 'node:util'
import { readSecretFiles } from '~~/shared/secret-files'
import { databaseFault } from '../settings/settings'
import { briefly } from './away'
import { connectDatabase, type EntityManager } from './orm'

/**
 * The command behind `npm run migrate`: run by the role that owns the database, it brings the schema up to date and gives the server's role what it
 * needs, no more.
 */
const { values } = parseArgs({ options: { 'server-role': { type: 'string' } } })
const [unread] = readSecretFiles(process.env, ['DATABASE_OWNER_URL'])
if (unread) fail(unread)
const url = process.env.DATABASE_OWNER_URL
const role = values['server-role']
if (!url || !role || !/^\w{1,60}$/.test(role))
  fail('Set DATABASE_OWNER_URL to the database, as the role that owns it, and name the role of the server with --server-role.')
const fault = databaseFault(url!)
if (fault) fail(`DATABASE_OWNER_URL ${fault}`)

/** The journal and what was set aside can only grow, whatever the server is made to do. */
const rights = [
  `grant usage on schema public to "${role}"`,
  `grant select, insert, update, delete on all tables in schema public to "${role}"`,
  `revoke update, delete, truncate on journal, journal_state, set_aside, account_change, account_correction, hand_over, hand_over_seen from "${role}"`,
  `revoke insert, update, delete on mikro_orm_migrations from "${role}"`,
]

const orm = await connectDatabase(url!).catch(error => fail(`The database could not be brought up to date: ${reasonOf(error)}`))
try {
  const em = orm.em.fork()
  const others = await foreignTables(em)
  if (others.length > 0)
    fail(`This database holds tables that are none of ours (${others.slice(0, 5).join(', ')}). Nothing was changed: name an empty one, or Estafette's.`)
  const [known] = await em.execute<object[]>('select 1 from pg_roles where rolname = ?', [role])
  if (!known) fail(`There is no role ${role}: make it first (create role ${role} login password '…'). Nothing was changed.`)
  const made = await orm.migrator.up()
  for (const statement of rights) await orm.em.fork().execute(statement)
  // After a backup was restored, an exchange that goes on running hears what the company is now.
  await orm.em.fork().execute('update company set version = greatest(version + 1, extract(epoch from now())::bigint)')
  console.log(made.length === 0 ? 'The database was up to date.' : `The database is up to date now: ${made.length} steps were made.`)
}
catch (error) {
  fail(`The database could not be brought up to date: ${reasonOf(error)}`)
}
finally {
  await orm.close(true)
}

/** Tables of a database that has never been ours. */
async function foreignTables(em: EntityManager): Promise<string[]> {
  const tables = (await em.execute<{ name: string }[]>('select tablename as name from pg_tables where schemaname = \'public\' order by 1'))
    .map(({ name }) => name)
  return tables.includes('mikro_orm_migrations') ? [] : tables
}

/** What PostgreSQL said, with what to do about it where that is known. */
function reasonOf(error: unknown): string {
  const { code, message } = error as { code?: string, message?: string }
  const causes: Record<string, string> = {
    '28P01': 'the password is wrong. Check the address in DATABASE_OWNER_URL.',
    '28000': 'that role may not sign in there. Check the address in DATABASE_OWNER_URL.',
    '3D000': 'there is no such database. Make it first, owned by that role.', '42501': `that role does not own what is there: ${message ?? ''}.`,
    'ECONNREFUSED': 'nothing answers at that address. Check host and port, and that PostgreSQL runs.', 'ENOTFOUND': 'there is no such host.',
  }
  return causes[code ?? ''] ?? `${message ?? 'no answer'} (${briefly(error)})`
}

function fail(sentence: string): never {
  console.error(sentence)
  process.exit(2)
}
