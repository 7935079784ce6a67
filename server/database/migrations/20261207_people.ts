import { Migration } from '@mikro-orm/migrations'

/** What operators should know of people who are asked for. */
export class WhoPeopleAre extends Migration {
  override up(): void {
    this.addSql(`
      alter table "person"
        add column "former" text null,
        add column "languages" jsonb not null default '[]',
        add column "said" text not null default '',
        add column "note" text not null default '';
    `)
  }
}
