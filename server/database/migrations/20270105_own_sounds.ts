import { Migration } from '@mikro-orm/migrations'

/** Sounds that somebody has recorded or brought, in the place of what the house plays and says by itself: G.711 (µ-law) at 8 kHz. */
export class OwnSounds extends Migration {
  override up(): void {
    this.addSql(`
      create table "own_sound" (
        "place" text not null primary key, "version" text not null, "sound" bytea not null, "name" text not null, "by" text not null, "at" timestamptz not null
      )`)
  }
}
