import { Migration } from '@mikro-orm/migrations'

/** When lines and queues are open. */
export class OpeningHoursTables extends Migration {
  override up(): void {
    this.addSql(`
      create table "opening_hours" ("id" text primary key, "name" text not null, "zone" text not null);
      create table "opening_span" (
        "hours" text not null references "opening_hours" ("id") on delete cascade deferrable,
        "day" int not null check ("day" between 1 and 7), "opens" int not null, "closes" int not null,
        check ("opens" between 0 and 1439 and "closes" > "opens" and "closes" <= 1440), primary key ("hours", "day", "opens")
      );
      create table "holiday" (
        "hours" text not null references "opening_hours" ("id") on delete cascade deferrable,
        "date" date not null, "name" text not null, primary key ("hours", "date")
      );
      alter table "line" add column "hours" text references "opening_hours" ("id") deferrable;
      alter table "call_group" add column "hours" text references "opening_hours" ("id") deferrable;
    `)
    for (const table of ['opening_hours', 'opening_span', 'holiday']) {
      this.addSql(`create trigger "company_changed" after insert or update or delete on "${table}" for each statement execute function "company_changed"()`)
    }
  }
}
