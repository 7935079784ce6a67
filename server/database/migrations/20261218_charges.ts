import { Migration } from '@mikro-orm/migrations'

/** Account codes that were corrected after the call: the journal and what follows from it stay as they were. */
export class ChargesCorrected extends Migration {
  override up(): void {
    this.addSql(`
      create table "account_correction" (
        "id" bigint generated always as identity primary key,
        "call" text not null,
        "at" timestamptz not null default now(),
        "by" text not null,
        "before" text not null,
        "after" text not null
      );
      create index "account_correction_call" on "account_correction" ("call", "id");
      create index "call_record_outbound" on "call_record" ("started_at") where "direction" = 'outbound' and "answered_at" is not null;
    `)
  }
}
