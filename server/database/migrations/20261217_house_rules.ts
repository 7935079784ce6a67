import { Migration } from '@mikro-orm/migrations'

/** How people sign in, and what each role may do. */
export class HouseRules extends Migration {
  override up(): void {
    this.addSql(`
      create table "house_rules" ("id" int primary key check ("id" = 1), "kept" jsonb not null, "version" int not null, "changed_by" text not null);
    `)
  }
}
