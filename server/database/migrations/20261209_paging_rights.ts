import { Migration } from '@mikro-orm/migrations'

/** Up to which rank operators may page, each of them. */
export class PagingRights extends Migration {
  override up(): void {
    this.addSql(`alter table "telephone" add column "may_page" text not null default 'safety' check ("may_page" in ('no', 'ordinary', 'urgent', 'safety'))`)
  }
}
