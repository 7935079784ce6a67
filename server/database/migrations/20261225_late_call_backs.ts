import { Migration } from '@mikro-orm/migrations'

/** How old a promise to call back may be before the operators are told. */
export class LateCallBacks extends Migration {
  override up(): void {
    this.addSql(`
      alter table "settings" add column "call_back_within" int not null default 7200000 check ("call_back_within" between 300000 and 604800000);
    `)
  }
}
