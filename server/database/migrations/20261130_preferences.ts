import { Migration } from '@mikro-orm/migrations'

/** How each of us has set the console, and which missed calls somebody has dealt with. */
export class PreferencesTable extends Migration {
  override up(): void {
    this.addSql(`
      create table "preferences" (
        "sign_in" text primary key references "account" ("sign_in") on delete cascade on update cascade,
        "kept" jsonb not null
      );
      create table "dealt_with" (
        "call" text primary key, "by" text not null, "by_name" text not null, "at" timestamptz not null, "called_back" boolean not null
      );
      create index "call_record_number" on "call_record" ("number", "started_at" desc);
    `)
  }
}
