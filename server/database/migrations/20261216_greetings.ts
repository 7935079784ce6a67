import { Migration } from '@mikro-orm/migrations'

/** Greetings by time of day and language, and the account codes of the house. */
export class Greetings extends Migration {
  override up(): void {
    this.addSql(`
      alter table "line" add column "greetings" jsonb not null default '[]';
      create table "account_code" ("id" text primary key, "code" text not null, "name" text not null);
      create unique index "account_code_code" on "account_code" (lower("code"));
      alter table "settings" add column "listed_codes_only" boolean not null default false;
    `)
  }
}
