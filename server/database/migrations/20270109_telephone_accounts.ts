import { Migration } from '@mikro-orm/migrations'

/** Telephones of the network, and their secrets as digest needs them. */
export class TelephoneAccounts extends Migration {
  override up(): void {
    this.addSql(`create table "telephone_account" (
      "telephone" text primary key references "telephone" ("id") on delete cascade,
      "name" text not null unique, "md5" text not null, "sha256" text not null, "by" text not null, "at" timestamptz not null
    )`)
  }
}
