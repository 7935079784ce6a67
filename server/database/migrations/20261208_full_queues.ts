import { Migration } from '@mikro-orm/migrations'

/** How many wait in a queue at most. */
export class FullQueues extends Migration {
  override up(): void {
    this.addSql('alter table "call_group" add column "most_waiting" int not null default 0 check ("most_waiting" >= 0)')
  }
}
