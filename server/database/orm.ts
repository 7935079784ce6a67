import { Migrator } from '@mikro-orm/migrations'
import { MikroORM } from '@mikro-orm/postgresql'
import { Account, BlockedNumber, CallRecordEntity, DepartmentEntity, JournalEntry, LineEntity, MessageEntity, ParkingEntity, PersonEntity } from './entities'
import { Begin } from './migrations/20261124_begin'
import { TheWholeHand } from './migrations/20261125_the_whole_hand'

export type { EntityManager } from '@mikro-orm/postgresql'

/** Connects to PostgreSQL, once it answers, and brings the schema up to date. */
export async function openDatabase(url: string): Promise<MikroORM> {
  const orm = await MikroORM.init({
    clientUrl: url,
    entities: [Account, DepartmentEntity, PersonEntity, LineEntity, JournalEntry, CallRecordEntity, ParkingEntity, BlockedNumber, MessageEntity],
    extensions: [Migrator],
    migrations: { migrationsList: [{ name: '20261124_begin', class: Begin }, { name: '20261125_the_whole_hand', class: TheWholeHand }], snapshot: false },
    pool: { min: 0, max: 8 },
    forceUtcTimezone: true,
  })
  await orm.migrator.up()
  return orm
}
