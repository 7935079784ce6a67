import { Migration } from '@mikro-orm/migrations'

/** What an operator has noted about a colleague for themselves, and who stands in for whom. */
export class OwnNotes extends Migration {
  override up(): void {
    this.addSql(`
      alter table "person" add column "deputies" jsonb not null default '[]';
      create table "own_note" (
        "sign_in" text not null references "account" ("sign_in") on delete cascade,
        "person" text not null,
        "text" text not null,
        "remind_on" date null,
        primary key ("sign_in", "person")
      );
    `)
  }
}
