import { Migration } from '@mikro-orm/migrations'

/** The house's own identity provider, and which sessions were begun by it. */
export class IdentityProvider extends Migration {
  override up(): void {
    this.addSql(`
      create table "identity_provider" (
        "id" int primary key default 1 check ("id" = 1),
        "settings" jsonb not null,
        "secret" text not null,
        "failure" text null,
        "read_at" timestamptz null
      );
      alter table "session"
        add column "provider_subject" text null,
        add column "provider_session" text null,
        add column "id_token" text null;
      create index "session_provider" on "session" ("provider_subject") where "provider_subject" is not null;
    `)
  }
}
