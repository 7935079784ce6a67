import { Migration } from '@mikro-orm/migrations'

/** Address books of other servers, and which contacts come from which of their cards. */
export class AddressBooks extends Migration {
  override up(): void {
    this.addSql(`
      create table "address_book" (
        "id" text primary key,
        "name" text not null,
        "address" text not null,
        "user_name" text not null,
        "secret" text not null,
        "token" text null,
        "unread" int not null default 0,
        "failure" text null,
        "read_at" timestamptz null,
        "next_at" timestamptz not null
      );
      alter table "contact" add column "book" text null references "address_book" ("id");
      create index "contact_book" on "contact" ("book") where "book" is not null;
      create table "book_card" (
        "book" text not null references "address_book" ("id") on delete cascade,
        "href" text not null,
        "etag" text not null,
        "contact" text null references "contact" ("id"),
        primary key ("book", "href")
      );
      create index "book_card_contact" on "book_card" ("contact") where "contact" is not null;
    `)
  }
}
