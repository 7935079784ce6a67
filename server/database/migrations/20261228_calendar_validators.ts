import { Migration } from '@mikro-orm/migrations'

/** Another server is asked only for a calendar that has changed. */
export class CalendarValidators extends Migration {
  override up(): void {
    this.addSql('alter table "calendar" add column "etag" text, add column "modified" text')
  }
}
