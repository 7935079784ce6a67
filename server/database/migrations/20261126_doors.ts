import { Migration } from '@mikro-orm/migrations'

export class Doors extends Migration {
  override up(): void {
    this.addSql(`
      alter table "account" add column "disabled" boolean not null default false;
      create table "session" (
        "id" text primary key, "sign_in" text not null references "account" ("sign_in") on delete cascade, "created_at" timestamptz not null,
        "seen_at" timestamptz not null, "browser" text not null, "address" text not null
      );
      create index "session_sign_in" on "session" ("sign_in");
      create table "sign_in_limit" ("key" text primary key, "failures" int not null, "until" timestamptz, "at" timestamptz not null);
      create table "set_aside" (
        "epoch" text not null, "seq" int not null, "at" timestamptz not null, "reason" text not null, "item" text not null, primary key ("epoch", "seq")
      );
    `)
  }
}
