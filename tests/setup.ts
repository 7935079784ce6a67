import { startPostgres } from '../scripts/postgres.mjs'

/** One PostgreSQL for all tests, thrown away afterwards; every stage has a database of its own in it. */
export default async function setup(): Promise<() => Promise<void>> {
  const postgres = await startPostgres('test-postgres', { fresh: true })
  process.env.TEST_DATABASE = postgres.database('postgres')
  return () => postgres.stop()
}
