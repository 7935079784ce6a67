import { Migrator } from '@mikro-orm/migrations'
import { MikroORM } from '@mikro-orm/postgresql'
import { Account, CallRecordEntity, DepartmentEntity, JournalEntry, LineEntity, PersonEntity } from './entities'
import { Begin } from './migrations/20261124_begin'

export type { EntityManager } from '@mikro-orm/postgresql'

/** Connects to PostgreSQL, once it answers, and brings the schema up to date. */
export async function openDatabase(url: string): Promise<MikroORM> {
  const orm = await MikroORM.init({
    clientUrl: url,
    entities: [Account, DepartmentEntity, PersonEntity, LineEntity, JournalEntry, CallRecordEntity],
    extensions: [Migrator],
    migrations: { migrationsList: [{ name: '20261124_begin', class: Begin }], snapshot: false },
    pool: { min: 0, max: 8 },
    forceUtcTimezone: true,
  })
  await orm.migrator.up()
  return orm
}
