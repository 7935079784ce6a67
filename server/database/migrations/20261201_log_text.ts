import { Migration } from '@mikro-orm/migrations'

/** The call log is found by any part of what stands in it: an index of trigrams, which Debian's PostgreSQL brings and a database's owner may use. */
export class LogTextIndex extends Migration {
  override up(): void {
    this.addSql(`
      create extension if not exists pg_trgm;
      create index "call_record_searchable" on "call_record" using gin ("searchable" gin_trgm_ops);
    `)
  }
}
