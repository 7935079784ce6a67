import { Migration } from '@mikro-orm/migrations'

/** What mailboxes say in their owners' own words, and where keys lead meanwhile: told to an exchange that begins anew. */
export class Mailboxes extends Migration {
  override up(): void {
    this.addSql('create table "mailbox" ("device" text not null primary key, "greetings" jsonb not null, "keys" jsonb not null)')
  }
}
