import { Migration } from '@mikro-orm/migrations'

/** Contacts of one's own, categories, addresses, the cards that contacts came from, and what was brought in by whom, so that it can be undone. */
export class AddressBook extends Migration {
  override up(): void {
    this.addSql(`
      alter table "contact"
        add column "owner" text null references "account" ("sign_in") on delete cascade,
        add column "category" text not null default '',
        add column "addresses" jsonb not null default '[]',
        add column "uid" text null,
        add column "card" jsonb not null default '[]';
      create index "contact_uid" on "contact" ("uid") where "uid" is not null;
      create index "contact_name" on "contact" (lower("name"));
      create table "contact_import" (
        "id" text primary key,
        "by" text not null,
        "file" text not null,
        "owner" text null,
        "at" timestamptz not null default now(),
        "undone_at" timestamptz null
      );
      create table "contact_import_row" (
        "import" text not null references "contact_import" ("id") on delete cascade,
        "position" int not null,
        "verdict" text not null check ("verdict" in ('new', 'changed', 'unchanged', 'refused', 'company')),
        "why" text not null default '',
        "contact" text null,
        "before" jsonb null,
        "version" int null,
        primary key ("import", "position", "verdict")
      );
    `)
  }
}
