import type { TestProject } from 'vitest/node'
import { prepareDatabase } from '../../scripts/database.mjs'
import { buildCommands } from '../../scripts/packages.mjs'
import { startPostgres } from '../../scripts/postgres.mjs'

declare module 'vitest' {
  export interface ProvidedContext { database: string }
}

/** The demo's data, from which the database of each file of tests is copied. */
export const template = 'unit_template'

/** One PostgreSQL for the unit tests of the server, thrown away afterwards. Where several processes test, each has its own. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  await buildCommands()
  const postgres = await startPostgres(`unit-postgres${process.env.STRYKER_MUTATOR_WORKER ?? ''}`, { fresh: true })
  await prepareDatabase(postgres.superuserUrl, template)
  project.provide('database', postgres.superuserUrl)
  return () => postgres.stop()
}
