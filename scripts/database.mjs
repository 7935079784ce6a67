import { createHmac } from 'node:crypto'
import { join } from 'node:path'
import { must, root } from './processes.mjs'

const ownerRole = 'estafette_owner'
const serverRole = 'estafette_server'

/**
 * @typedef {{ demo?: boolean, people?: number, history?: number, until?: string, behind?: boolean, calendars?: string, template?: string }} Options
 *   `history`: days behind the demo, before the time `until`, made up at once, or, `behind`, by somebody else later; `calendars`: the origin where they are
 *   served; `template`: a database prepared before, to be copied
 */

/**
 * A database with two roles: one owns it and changes its schema, the other is the server's and may do what a server does. Neither is a superuser.
 * @param {string} superuserUrl of the cluster, with any database
 * @param {string} name of the database; it is made when it is not there
 * @param {Options} [options]
 * @returns {Promise<string>} the address for the server
 */
export async function prepareDatabase(superuserUrl, name, { demo = true, people = 182, history = 0, until, behind = false, calendars, template } = {}) {
  const address = new URL(superuserUrl)
  /** @param {string} role */
  const secretOf = role => createHmac('sha256', address.password).update(role).digest('hex')
  /** @param {string} role */
  const urlFor = (role) => {
    const url = new URL(superuserUrl)
    url.username = role
    url.password = secretOf(role)
    url.pathname = `/${name}`
    return url.href
  }
  await asSuperuser(superuserUrl, async (client) => {
    // Two that prepare at the same moment come one after the other.
    await client.query('select pg_advisory_lock(960)')
    for (const role of template ? [] : [ownerRole, serverRole]) {
      const known = await client.query('select 1 from pg_roles where rolname = $1', [role])
      await client.query(`${known.rowCount ? 'alter' : 'create'} role ${role} login nosuperuser nocreatedb nocreaterole password '${secretOf(role)}'`)
    }
    const there = await client.query('select 1 from pg_database where datname = $1', [name])
    if (!there.rowCount) await client.query(`create database "${name}" owner ${ownerRole}${template ? ` template "${template}"` : ''}`)
    else await client.query(`alter database "${name}" owner to ${ownerRole}`)
    await client.query(`revoke all on database "${name}" from public`)
    await client.query(`grant connect, temporary on database "${name}" to ${serverRole}`)
  })
  if (template) return urlFor(serverRole)
  const inside = new URL(superuserUrl)
  inside.pathname = `/${name}`
  // What an earlier version of the start command made belongs to the owner from now on; what an extension brought stays with it.
  await asSuperuser(inside.href, client =>
    client.query(`do $$ declare it record; begin
    for it in select format('table public.%I', tablename) as what from pg_tables where schemaname = 'public' and tableowner <> '${ownerRole}'
      union all select 'function ' || oid::regprocedure from pg_proc where pronamespace = 'public'::regnamespace
        and pg_get_userbyid(proowner) <> '${ownerRole}'
        and not exists (select 1 from pg_depend where classid = 'pg_proc'::regclass and objid = pg_proc.oid and deptype = 'e')
    loop execute 'alter ' || it.what || ' owner to ${ownerRole}'; end loop; end $$`),
  )
  await must(
    process.execPath,
    [join(root, '.output/commands/migrate.mjs'), '--server-role', serverRole],
    'The database could not be brought up to date: see the message above.',
    {
      env: { ...process.env, DATABASE_OWNER_URL: urlFor(ownerRole) },
    },
  )
  /** @param {string} program @param {string[]} args */
  const fill = (program, ...args) => must(
    process.execPath, [join(root, `.output/commands/${program}.mjs`), ...args], 'The demo could not be put into the database: see the message above.',
    { env: { ...process.env, NUXT_DATABASE_URL: urlFor(serverRole) } },
  )
  if (demo) {
    await fill(
      'seed', '--people', String(people), '--history', String(history), ...(until ? ['--until', until] : []), ...(calendars ? ['--calendars', calendars] : []),
    )
  }
  if (history > 0 && !behind) await fill('history')
  return urlFor(serverRole)
}

/**
 * @template T
 * @param {string} url
 * @param {(client: import('pg').Client) => Promise<T>} work
 */
async function asSuperuser(url, work) {
  // No package is there before the start command has installed them.
  const { default: pg } = await import('pg')
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  try {
    return await work(client)
  }
  finally {
    await client.end()
  }
}

/**
 * The first value that a statement gives, asked as superuser in one database of the cluster.
 * @param {string} superuserUrl
 * @param {string} name
 * @param {string} statement
 */
export async function firstValue(superuserUrl, name, statement) {
  const url = new URL(superuserUrl)
  url.pathname = `/${name}`
  return asSuperuser(url.href, async client => Object.values((await client.query(statement)).rows[0] ?? {})[0])
}
