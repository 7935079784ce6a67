import { Migration } from '@mikro-orm/migrations'

/** The house's own directory, and which people come from which of its entries. */
export class HouseDirectory extends Migration {
  override up(): void {
    this.addSql(`
      create table "house_directory" (
        "id" int primary key default 1 check ("id" = 1),
        "address" text not null,
        "start_tls" boolean not null,
        "user_name" text not null,
        "secret" text not null,
        "base" text not null,
        "filter" text not null,
        "columns" jsonb not null,
        "numbered" boolean not null,
        "refused" jsonb not null default '[]',
        "failure" text null,
        "read_at" timestamptz null,
        "next_at" timestamptz not null
      );
      create table "house_directory_entry" (
        "key" text primary key,
        "person" text not null unique references "person" ("id") on delete cascade deferrable initially immediate,
        "owns" jsonb not null,
        "gone_at" timestamptz null
      );
    `)
  }
}
