import { Migration } from '@mikro-orm/migrations'

/**
 * What was said to mailboxes, in pieces of two seconds (G.711, µ-law). They come before their message, which is told when its call is over. Whoever has deleted
 * a message may regret it for a while.
 */
export class SoundOfMessages extends Migration {
  override up(): void {
    this.addSql('alter table "message" add column "deleted_at" timestamptz')
    this.addSql('create table "message_sound" ("message" text not null, "place" bigint not null, "sound" bytea not null, primary key ("message", "place"))')
  }
}
