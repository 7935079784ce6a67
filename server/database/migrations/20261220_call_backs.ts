import { Migration } from '@mikro-orm/migrations'

/** Callers whom we have promised to call back; and shifts that are handed over. */
export class CallBacks extends Migration {
  override async up(): Promise<void> {
    this.addSql(`
      alter table "call_group" add column "call_back_digit" text not null default '' check ("call_back_digit" ~ '^[0-9*#]?$');
      alter table "settings"
        add column "call_back_tries" int not null default 3 check ("call_back_tries" between 1 and 20),
        add column "call_back_again" int not null default 900000 check ("call_back_again" >= 0);

      -- "epoch": the run of the exchange in which it was promised; "stands", "seq": the event after which it stood so.
      create table "call_back" (
        "id" text primary key,
        "epoch" text not null,
        "stands" text not null,
        "seq" int not null,
        "number" text,
        "name" text,
        "line" text,
        "queue" text not null,
        "since" timestamptz not null,
        "turn" int,
        "promised_at" timestamptz not null,
        "by" text,
        "assigned" text,
        "tries" int not null,
        "not_before" timestamptz,
        "end" text check ("end" in ('reached', 'calledAgain', 'unreached', 'withdrawn')),
        "ended_by" text,
        "ended_at" timestamptz,
        "word" text,
        "names" jsonb not null
      );
      create index "call_back_open" on "call_back" ("promised_at") where "end" is null;

      create table "shift_note" (
        "id" uuid primary key,
        "text" text not null,
        "by" text not null,
        "by_name" text not null,
        "at" timestamptz not null,
        "done_at" timestamptz,
        "done_by_name" text
      );
      create index "shift_note_open" on "shift_note" ("at") where "done_at" is null;
      -- What was said, and who has seen it: neither is ever changed.
      create table "hand_over" (
        "id" uuid primary key,
        "at" timestamptz not null,
        "by" text not null,
        "by_name" text not null,
        "said" jsonb not null
      );
      create index "hand_over_at" on "hand_over" ("at" desc);
      create table "hand_over_seen" (
        "hand_over" uuid primary key references "hand_over" ("id"),
        "at" timestamptz not null,
        "by" text not null,
        "by_name" text not null
      );
    `)
  }
}
