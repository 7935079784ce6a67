import { Migration } from '@mikro-orm/migrations'

/** Who may listen to calls of others is said by hand, and of nobody who was there before. */
export class ListeningRight extends Migration {
  override up(): void {
    this.addSql('alter table "telephone" add column "may_listen" boolean not null default false')
    this.addSql('alter table "settings" add column "listening_tone" boolean not null default true')
  }
}
