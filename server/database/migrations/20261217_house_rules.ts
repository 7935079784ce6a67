import { Migration } from '@mikro-orm/migrations'

/** How people sign in, what each role may do, and who has changed that, or an account. */
export class HouseRules extends Migration {
  override up(): void {
    this.addSql(`
      create table "house_rules" ("id" int primary key check ("id" = 1), "kept" jsonb not null, "version" int not null, "changed_by" text not null);
      create table "account_change" (
        "id" bigint generated always as identity primary key,
        "at" timestamptz not null default now(),
        "by" text not null,
        "account" text null,
        "what" text not null,
        "before" text not null,
        "after" text not null
      );
    `)
  }
}
