import { Migration } from '@mikro-orm/migrations'

/**
 * The country, its numbers and the house's name are the company's own; slots and trunks have names; times have bounds; and an empty company has what it can't
 * do without: a place, a department, and a queue of the operators.
 */
export class AHouseOfOnesOwn extends Migration {
  override up(): void {
    this.addSql(`
      alter table "settings"
        add column "name" text not null default '',
        add column "country" text not null default 'GB' check ("country" ~ '^[A-Z]{2}$'),
        add column "language" text not null default 'English',
        add column "first_extension" text not null default '2000',
        add column "longest_inside" int not null default 5 check ("longest_inside" between 3 and 7);
      alter table "park_slot" add column "name" text;
      update "park_slot" set "name" = case when "id" ~ '^slot:[0-9]+$' then substr("id", 6) else "number" end;
      alter table "park_slot" alter column "name" set not null;
      alter table "trunk" add column "name" text;
      update "trunk" set "name" = case when "id" like 'trunk-%' then 'Outside' else "id" end;
      alter table "trunk" alter column "name" set not null;
    `)
    for (const table of ['telephone', 'call_group', 'park_slot', 'zone']) {
      this.addSql(`alter table "${table}" drop constraint if exists "${table}_number_check"`)
      this.addSql(`alter table "${table}" add constraint "${table}_number_check" check ("number" ~ '^[0-9]{1,7}$')`)
    }
    for (const [table, column, least, most] of bounds)
      this.addSql(`update "${table}" set "${column}" = least(greatest("${column}", ${least}), ${most}) where "${column}" not between ${least} and ${most}`)
    this.addSql(`update "call_group" set "tell_every" = 10000 where "tell_every" between 1 and 9999`)
    this.addSql(`
      insert into "site" ("id", "name", "position") select 'site:first', 'Head office', 0 where ${isEmpty};
      insert into "call_group" ("id", "name", "number", "distribution", "overflow_after", "overflow_to")
        select 'operators', 'Operators', '0', 'queue', 240000, 'operators' where ${isEmpty};
      insert into "department" ("id", "name", "site", "handles", "position") select 'department:first', 'Front desk', 'site:first', '[]', 0 where ${isEmpty};
      update "settings" set "operators" = 'operators' where "operators" is null and exists (select 1 from "call_group" where "id" = 'operators');
    `)
  }
}

const isEmpty = 'not exists (select 1 from "telephone") and not exists (select 1 from "person") and not exists (select 1 from "department")'

/** What stands outside them was never meant: a time of nothing, mostly. Milliseconds. */
const second = 1_000
const hour = 3_600 * second
const day = 24 * hour
const bounds: [table: string, column: string, least: number, most: number][] = [
  ['settings', 'ring_cycle', second, 15 * second], ['settings', 'transfer_recall', 5 * second, 600 * second],
  ['settings', 'no_answer', 5 * second, 600 * second], ['settings', 'queue_recall', 5 * second, 2 * hour],
  ['settings', 'park_recall', 5 * second, 2 * hour], ['settings', 'failed_tone', second, 60 * second], ['settings', 'absence', second, hour],
  ['settings', 'hold_recall', 10 * second, 2 * hour], ['settings', 'hold_limit', 10 * second, 2 * hour], ['settings', 'overflow', 10 * second, 2 * hour],
  ['settings', 'outside_watch', 10 * second, day], ['settings', 'outside_longest', 60 * second, 2 * day],
  ['settings', 'longest_message', 5 * second, 1_800 * second], ['settings', 'conference_size', 3, 40],
  ['settings', 'page_silence', 3 * second, 600 * second], ['settings', 'page_wait', second, hour], ['settings', 'call_back_again', 30 * second, day],
  ['settings', 'short_abandon', 0, 120 * second], ['call_group', 'promise', second, 2 * hour], ['call_group', 'wrap_up', 0, hour],
  ['call_group', 'ring_time', 3 * second, 300 * second], ['call_group', 'pause_after', 0, 50], ['call_group', 'tell_every', 0, hour],
  ['call_group', 'most_waiting', 0, 1_000], ['call_group', 'tries', 0, 100], ['call_group', 'overflow_after', 5 * second, 2 * hour],
  ['line', 'promise', second, 2 * hour], ['line', 'overflow_after', 5 * second, 2 * hour], ['telephone', 'capacity', 1, 50],
  ['telephone', 'rank', 0, 99], ['trunk', 'channels', 1, 10_000],
]
