import { Migration } from '@mikro-orm/migrations'

/** With the states from which its events lead on, the journal says everything: what is made from it can be made again. */
export class AJournalThatBegins extends Migration {
  override up(): void {
    this.addSql(`
      create table "journal_state" (
        "epoch" text not null, "seq" int not null, "at" timestamptz not null, "version" int not null, "state" jsonb not null,
        "position" bigint generated always as identity unique, primary key ("epoch", "seq")
      );
      create trigger "journal_append_only" before update or delete or truncate on "journal_state"
        for each statement execute function "journal_is_append_only"();
      alter table "journal" add column "version" int not null default 0;
    `)
  }
}
