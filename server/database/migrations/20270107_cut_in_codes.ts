import { Migration } from '@mikro-orm/migrations'

/** What of a card is left out is kept in codes, and said in the language of whoever asks. What was kept in words stays so until its card changes. */
export class CutInCodes extends Migration {
  override up(): void {
    this.addSql(`alter table "book_card" alter column "cut" drop default, alter column "cut" type jsonb
      using case when "cut" = '' then '[]'::jsonb else jsonb_build_array("cut") end, alter column "cut" set default '[]'`)
  }
}
