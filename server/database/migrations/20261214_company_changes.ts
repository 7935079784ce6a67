import { Migration } from '@mikro-orm/migrations'

/** What has been changed of the company, by whom; numbers may change hands within one change. */
export class CompanyChanges extends Migration {
  override up(): void {
    this.addSql(`
      create table "company_change" (
        "id" bigint generated always as identity primary key,
        "at" timestamptz not null default now(),
        "by" text not null,
        "edit" text not null,
        "part" text not null,
        "thing" text not null,
        "before" jsonb null,
        "after" jsonb null
      );
      create index "company_change_thing" on "company_change" ("part", "thing", "id");
      create index "company_change_edit" on "company_change" ("edit");
      alter table "person" alter constraint "person_department_fkey" deferrable;
    `)
    const numbers = [
      ['call_group', 'number'], ['line', 'number'], ['park_slot', 'number'], ['telephone', 'direct'], ['telephone', 'number'], ['zone', 'number'],
    ]
    for (const [table, column] of numbers) {
      this.addSql(`alter table "${table}" drop constraint "${table}_${column}_key"`)
      this.addSql(`alter table "${table}" add constraint "${table}_${column}_key" unique ("${column}") deferrable`)
    }
  }
}
