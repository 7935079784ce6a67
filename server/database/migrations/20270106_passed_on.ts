import { Migration } from '@mikro-orm/migrations'

/** A message that its reader has passed on to somebody else: by whom, and with which word. Null: it is the first of its kind. */
export class PassedOn extends Migration {
  override up(): void {
    this.addSql('alter table "message" add column "passed_on" text, add column "passed_on_by" text')
  }
}
