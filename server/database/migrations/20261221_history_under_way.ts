import { Migration } from '@mikro-orm/migrations'

/** Months that are brought into the journal while it is in use: how many weeks there are to be before a time, and how many of them are there. */
export class HistoryUnderWay extends Migration {
  override up(): void {
    this.addSql(`
      create table "history_under_way" (
        "id" int primary key default 1 check ("id" = 1),
        "weeks" int not null,
        "done" int not null,
        "until" timestamptz not null
      );
    `)
  }
}
