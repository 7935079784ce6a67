import { Migration } from '@mikro-orm/migrations'

/** Who is where when: calendars, duty rosters, and whoever is at a place for a while. */
export class Whereabouts extends Migration {
  override up(): void {
    this.addSql(`
      alter table "settings" add column "zone" text not null default 'Europe/London';
      create table "duty" (
        "id" text primary key check ("id" ~ '^[a-zA-Z]'), "name" text not null, "handles" jsonb not null, "instead" text not null,
        "position" int not null
      );
      create table "calendar" (
        "of" text primary key,
        "address" text null,
        "content" text not null default '',
        "problems" jsonb not null default '[]',
        "failure" text null,
        "read_at" timestamptz null,
        "next_at" timestamptz not null default now(),
        "changed_by" text not null
      );
      create index "calendar_next" on "calendar" ("next_at");
      create table "calendar_span" (
        "id" uuid primary key default gen_random_uuid(),
        "of" text not null references "calendar" ("of") on delete cascade,
        "from_at" timestamptz not null,
        "to_at" timestamptz not null,
        "all_day" boolean not null,
        "place" text not null,
        "title" text not null,
        "priority" int not null
      );
      create index "calendar_span_of" on "calendar_span" ("of");
      create index "calendar_span_to" on "calendar_span" ("to_at");
      create table "occupancy" (
        "id" uuid primary key default gen_random_uuid(),
        "telephone" text not null,
        "name" text not null,
        "from_at" timestamptz not null,
        "to_at" timestamptz null
      );
      create index "occupancy_to" on "occupancy" ("to_at");
      create trigger "company_changed" after insert or update or delete on "duty" for each statement execute function "company_changed"();
    `)
  }
}
