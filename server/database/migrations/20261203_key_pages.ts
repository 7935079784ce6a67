import { Migration } from '@mikro-orm/migrations'

/** Pages of speed keys, personal and shared. */
export class KeyPages extends Migration {
  override up(): void {
    this.addSql(`
      create table "key_page" (
        "id" text primary key,
        "name" text not null,
        "owner" text null references "account" ("sign_in") on delete cascade,
        "position" int not null,
        "version" int not null default 1,
        "keys" jsonb not null default '[]'
      );
      create index "key_page_owner" on "key_page" ("owner");
    `)
  }
}
