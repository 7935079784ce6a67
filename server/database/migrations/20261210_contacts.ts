import { Migration } from '@mikro-orm/migrations'

/** Whom we know outside, and where their calls really ended. */
export class Contacts extends Migration {
  override up(): void {
    this.addSql(`
      create table "contact" (
        "id" text primary key,
        "kind" text not null check ("kind" in ('company', 'person', 'individual')),
        "name" text not null,
        "company" text null references "contact" ("id"),
        "language" text not null default '',
        "note" text not null default '',
        "read_first" boolean not null default false,
        "mark" text not null default 'none' check ("mark" in ('none', 'important', 'nuisance')),
        "version" int not null default 1,
        "change" int not null,
        "removed" boolean not null default false,
        "changed_by" text not null,
        "changed_at" timestamptz not null default now()
      );
      create index "contact_changes" on "contact" ("change");
      create index "contact_company" on "contact" ("company");
      create table "contact_number" (
        "contact" text not null references "contact" ("id") on delete cascade,
        "number" text not null,
        "kind" text not null check ("kind" in ('work', 'mobile', 'home', 'other')),
        "position" int not null,
        primary key ("contact", "number")
      );
      create index "contact_number_number" on "contact_number" ("number");
      create table "conversation" (
        "call" text primary key,
        "number" text null,
        "line" text null,
        "at" timestamptz not null,
        "device" text not null,
        "group" text null
      );
      create index "conversation_number" on "conversation" ("number", "at" desc);
      create index "conversation_line" on "conversation" ("line", "at" desc);
    `)
  }
}
