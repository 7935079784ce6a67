import { prepareDatabase } from '../scripts/database.mjs'
import { startPostgres } from '../scripts/postgres.mjs'

/** One PostgreSQL for all tests, thrown away afterwards; every stage has a database of its own in it. */
export default async function setup(): Promise<() => Promise<void>> {
  const postgres = await startPostgres('test-postgres', { fresh: true })
  process.env.TEST_DATABASE = postgres.superuserUrl
  // Every stage of the demo begins with a copy of this one.
  process.env.TEST_TEMPLATE = 'stage_template'
  await prepareDatabase(postgres.superuserUrl, process.env.TEST_TEMPLATE)
  return () => postgres.stop()
}
