import { Migration } from '@mikro-orm/migrations'

/** Which kinds of numbers may be called, and called back: a house that called everywhere goes on doing so where it is far, not where it is dear. */
export class CallsTo extends Migration {
  override up(): void {
    this.addSql(`
      alter table "settings" add column "calls_to" jsonb not null default '["inland", "abroad"]' check (jsonb_typeof("calls_to") = 'array');
      alter table "settings" add column "call_backs_to" jsonb not null default '["inland"]' check (jsonb_typeof("call_backs_to") = 'array');
    `)
  }
}
