import { Migration } from '@mikro-orm/migrations'

/** Within which a queue promises an answer, in milliseconds. */
export class QueuePromise extends Migration {
  override up(): void {
    this.addSql('alter table "call_group" add column "promise" int not null default 60000 check ("promise" > 0)')
  }
}
