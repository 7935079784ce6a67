import { Migration } from '@mikro-orm/migrations'

/** Who has dealt with what a message is about, and when: several people read the mailbox of a group or a line. */
export class DealtWithMessages extends Migration {
  override up(): void {
    this.addSql('alter table "message" add column "dealt_by" text, add column "dealt_at" timestamptz')
  }
}
