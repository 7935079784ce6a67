import { Migration } from '@mikro-orm/migrations'

/** Loudspeaker zones, announcements at hand, and the rules of speaking to them. */
export class Paging extends Migration {
  override up(): void {
    this.addSql(`
      create table "zone" (
        "id" text primary key check ("id" ~ '^[a-zA-Z]'), "name" text not null, "number" text not null unique check ("number" ~ '^[0-9]{1,5}$'),
        "site" text not null references "site" ("id") deferrable, "speakers" jsonb not null, "position" int not null
      );
      create table "announcement" (
        "id" text primary key, "occasion" text not null, "text" text not null,
        "rank" text not null check ("rank" in ('ordinary', 'urgent', 'safety')), "twice" boolean not null, "position" int not null
      );
      alter table "settings" add column "page_silence" int not null default 15000 check ("page_silence" > 0),
        add column "page_wait" int not null default 60000 check ("page_wait" > 0),
        add column "page_over_do_not_disturb" text not null default 'urgent' check ("page_over_do_not_disturb" in ('ordinary', 'urgent', 'safety')),
        add column "page_default" text null;
    `)
    for (const table of ['zone', 'announcement'])
      this.addSql(`create trigger "company_changed" after insert or update or delete on "${table}" for each statement execute function "company_changed"()`)
  }
}
