import { Migration } from '@mikro-orm/migrations'

export class Begin extends Migration {
  override up(): void {
    this.addSql(`
      create table "account" ("sign_in" text primary key, "name" text not null, "role" text not null, "password_hash" text not null, "extension" text);
      create table "department" ("id" text primary key, "name" text not null, "site" text not null, "handles" jsonb not null, "position" int not null);
      create table "person" (
        "extension" text primary key, "first" text not null, "last" text not null, "nickname" text,
        "department" text not null references "department" ("id"), "role" text not null, "room" text not null
      );
      create table "line" ("id" text primary key, "name" text not null, "number" text not null unique, "promise" int not null, "greeting" text not null);
      create table "journal" (
        "epoch" text not null, "seq" int not null, "at" timestamptz not null, "type" text not null, "call" text, "event" jsonb not null,
        primary key ("epoch", "seq")
      );
      create index "journal_at" on "journal" ("at");
      create index "journal_call" on "journal" ("call");
      create table "call_record" (
        "id" text primary key, "epoch" text not null, "seq" int not null, "direction" text not null, "number" text, "name" text,
        "dialled" text not null, "line" text, "started_at" timestamptz not null, "answered_at" timestamptz, "ended_at" timestamptz,
        "outcome" text not null, "answered_by" text, "ended_with" text, "devices" text[] not null, "names" jsonb not null, "story" jsonb not null,
        "searchable" text not null
      );
      create index "call_record_started" on "call_record" ("started_at" desc, "id" desc);
      create index "call_record_live" on "call_record" ("epoch") where "outcome" = 'live';
    `)
    this.addSql(`
      create function "journal_is_append_only"() returns trigger language plpgsql as
        $$ begin raise exception 'the journal is append-only'; end $$;
      create trigger "journal_append_only" before update or delete or truncate on "journal"
        for each statement execute function "journal_is_append_only"();
    `)
  }
}
