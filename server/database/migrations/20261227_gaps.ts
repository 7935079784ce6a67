import { Migration } from '@mikro-orm/migrations'

/** What nobody could keep and nobody knows any more is said, not passed over. */
export class Gaps extends Migration {
  override up(): void {
    this.addSql(`
      create table "journal_gap" (
        "epoch" text not null, "after" int not null, "before" int, "at" timestamptz not null, primary key ("epoch", "after")
      );
      create trigger "journal_append_only" before update or delete or truncate on "journal_gap"
        for each statement execute function "journal_is_append_only"();
    `)
  }
}
