import { Migration } from '@mikro-orm/migrations'

/**
 * Recorded calls. What is said stands in pieces with that of mailboxes (`message_sound`, under the recording's id); here stands of which call it is, what
 * somebody has noted, and who has deleted it.
 */
export class Recordings extends Migration {
  override up(): void {
    this.addSql('alter table "telephone" add column "may_record" boolean not null default false')
    this.addSql(`alter table "line" add column "recording" text not null default 'onRequest' check ("recording" in ('onRequest', 'always', 'never'))`)
    this.addSql(`
      create table "recording" (
        "id" text not null primary key, "call" text not null, "at" timestamptz not null, "note" text not null default '', "noted_by" text,
        "deleted_at" timestamptz, "deleted_by" text
      )`)
    this.addSql('create index "recording_at" on "recording" ("at" desc, "id" desc)')
    this.addSql('create index "recording_call" on "recording" ("call")')
  }
}
