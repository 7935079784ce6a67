import { Migration } from '@mikro-orm/migrations'

/** What callers hear before somebody answers, as the house has written it; empty: as in its country. */
export class TonesOfTheHouse extends Migration {
  override up(): void {
    this.addSql(`
      alter table "settings" add column "tones" jsonb not null default '{"ringing": "", "busy": "", "congestion": "", "unobtainable": ""}'
    `)
  }
}
