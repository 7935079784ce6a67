import { Migration } from '@mikro-orm/migrations'

/** What of a card is more than is kept of a contact, in words; empty: nothing. */
export class CardsCut extends Migration {
  override up(): void {
    this.addSql('alter table "book_card" add column "cut" text not null default \'\'')
  }
}
