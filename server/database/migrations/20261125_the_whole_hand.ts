import { Migration } from '@mikro-orm/migrations'

export class TheWholeHand extends Migration {
  override up(): void {
    this.addSql(`
      alter table "person" add column "mobile" text;
      alter table "call_record" add column "account" text;
      create table "parking" (
        "call" text not null, "at" timestamptz not null, "slot" text not null, "by" text not null, "for" text, "caller" text not null,
        "number" text, "name" text, "end" text not null, "ended_at" timestamptz, "taken_by" text, "names" jsonb not null,
        primary key ("call", "at")
      );
      create index "parking_at" on "parking" ("at" desc);
      create table "blocked_number" ("number" text primary key, "reason" text not null, "by" text not null, "at" timestamptz not null);
      create table "message" (
        "id" text primary key, "kind" text not null, "to" text not null, "from" text not null, "from_name" text not null,
        "caller" text, "number" text, "text" text not null, "urgent" boolean not null, "call_back" boolean not null,
        "seconds" int, "at" timestamptz not null, "read_at" timestamptz
      );
      create index "message_to" on "message" ("to", "at" desc);
      create index "message_from" on "message" ("from", "at" desc);
    `)
  }
}
