import { Migration } from '@mikro-orm/migrations'

/** How each of us has set the console. */
export class PreferencesTable extends Migration {
  override up(): void {
    this.addSql(`
      create table "preferences" (
        "sign_in" text primary key references "account" ("sign_in") on delete cascade on update cascade,
        "kept" jsonb not null
      );
    `)
  }
}
