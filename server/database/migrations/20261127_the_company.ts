import { Migration } from '@mikro-orm/migrations'

/** The company becomes data: what stood in the program so far moves into tables, and people get a key of their own. */
export class TheCompany extends Migration {
  override up(): void {
    this.addSql(`
      create table "site" ("id" text primary key, "name" text not null, "position" int not null);
      insert into "site" select "site", "site", min("position") from "department" group by "site";
      alter table "department" add foreign key ("site") references "site" ("id") deferrable;

      alter table "person" add column "id" text;
      update "person" set "id" = 'p' || "extension";
      create table "telephone" (
        "id" text primary key check ("id" ~ '^[a-zA-Z]'), "person" text, "rank" int not null default 0, "label" text,
        "number" text not null unique check ("number" ~ '^[0-9]{1,5}$'), "capacity" int not null default 1 check ("capacity" > 0), "in_service"
          boolean not null default true,
        "pickup_group" text not null default '', "direct" text unique, check ("person" is not null or "label" is not null)
      );
      with "known" as (select *, row_number() over (order by "extension") - 1 as "index", '+441632960' || right("extension", 3) as "own" from "person")
      insert into "telephone" ("id", "person", "number", "capacity", "in_service", "pickup_group", "direct")
        select 't' || "extension", "id", "extension", case when "index" < 3 then 12 else 1 end, "index" % 61 <> 60, "department",
          case when row_number() over (partition by "own" order by "index") = 1 and not exists (select 1 from "line" where "number" = "own") then "own" end
        from "known";
      alter table "account" add column "person" text;
      update "account" set "person" = 'p' || "extension" where "extension" is not null and exists (select 1 from "person" where "extension" =
        "account"."extension");
      alter table "account" drop column "extension";
      alter table "person" drop column "extension";
      alter table "person" add primary key ("id");
      alter table "telephone" add foreign key ("person") references "person" ("id") deferrable;
      alter table "account" add foreign key ("person") references "person" ("id") on delete set null deferrable;

      create table "call_group" (
        "id" text primary key, "name" text not null, "number" text not null unique check ("number" ~ '^[0-9]{1,5}$'), "distribution" text not null,
          "tries" int not null default 3,
        "department" text references "department" ("id") deferrable, "overflow_after" int not null, "overflow_to" text not null
      );
      create table "call_group_member" (
        "group" text not null references "call_group" ("id") on delete cascade deferrable, "telephone" text not null references "telephone" ("id") on
          delete cascade deferrable,
        "position" int not null default 0, primary key ("group", "telephone")
      );
      create table "trunk" ("id" text primary key, "channels" int not null, "kept" int not null default 0, check ("kept" between 0 and "channels"));
      create table "park_slot" ("id" text primary key, "number" text not null unique, "position" int not null);
      create table "short_number" ("number" text primary key, "name" text not null, "emergency" boolean not null);
      create table "settings" (
        "id" int primary key check ("id" = 1), "ring_cycle" int not null default 5000, "transfer_recall" int not null default 20000, "no_answer" int
          not null default 30000,
        "queue_recall" int not null default 60000, "park_recall" int not null default 90000, "failed_tone" int not null default 5000, "absence" int
          not null default 30000,
        "hold_recall" int not null default 180000, "hold_limit" int not null default 900000, "overflow" int not null default 180000, "outside_watch"
          int not null default 300000,
        "outside_longest" int not null default 7200000, "longest_message" int not null default 120000, "conference_size" int not null default 8,
        "operators" text references "call_group" ("id") deferrable
      );
      insert into "settings" ("id") values (1);
    `)
    // What was built into the program for whoever has used it until now.
    this.addSql(`
      insert into "call_group" select 'operators', 'Operators', '0', 'queue', 3, null, 240000, 'operators' where exists (select 1 from "person");
      insert into "call_group" select 'queue:' || "id", "name", "number", 'queue', 3, "department", 240000, 'operators' from (values
        ('reservations', 'Reservations queue', '601', 'reservations'), ('freight', 'Freight queue', '602', 'freight'),
        ('lostProperty', 'Lost property queue', '603', 'lostProperty'), ('sailingNews', 'Sailing news queue', '604', 'control')
      ) as "queue" ("id", "name", "number", "department") where exists (select 1 from "department" where "department"."id" = "queue"."department");
      insert into "call_group" select 'group:' || "id", "name", (501 + "position")::text, 'longestFree', 3, "id", 240000, 'operators' from "department";
      insert into "call_group_member" select 'operators', "id", "number"::int from "telephone" order by "number" limit 3;
      insert into "call_group_member" select "call_group"."id", "telephone"."id", "telephone"."number"::int
        from "call_group" join "person" on "person"."department" = "call_group"."department" join "telephone" on "telephone"."person" = "person"."id";
      update "settings" set "operators" = (select "id" from "call_group" where "id" = 'operators');
      insert into "trunk" select "id", 21, 1 from (values ('east'), ('west')) as "trunk" ("id") where exists (select 1 from "person");
      insert into "park_slot" select 'slot:' || "n", (700 + "n")::text, "n" from generate_series(1, 10) as "n" where exists (select 1 from "person");
      insert into "short_number" select * from (values ('112', 'Emergency', true), ('999', 'Emergency', true), ('101', 'Police, not an emergency',
        false)) as "short" where exists (select 1 from "person");

      alter table "line" add column "target" text, add column "night" text, add column "overflow_after" int, add column "overflow_to" text;
      update "line" set "promise" = "promise" * 1000, "target" = 'operators', "night" = 'mailbox:' || "id", "overflow_to" = 'mailbox:' || "id",
        "overflow_after" = case when "id" in ('harbour', 'directors') then 180000 else 240000 end;
      alter table "line" alter column "target" set not null, alter column "night" set not null, alter column "overflow_after" set not null, alter
        column "overflow_to" set not null;
      alter table "line" add foreign key ("target") references "call_group" ("id") deferrable;
    `)
    // A telephone's id is no longer its number: what has been kept of calls speaks of telephones by their ids. The journal stays as it was.
    this.addSql(`
      create function "by_id"("told" text) returns text language sql immutable as $$ select regexp_replace("told", '^(mailbox:)?([0-9]{4,5})$', '\\1t\\2') $$;
      update "call_record" set
        "answered_by" = "by_id"("answered_by"), "ended_with" = "by_id"("ended_with"),
        "devices" = array(select "by_id"("device") from unnest("devices") with ordinality as "d" ("device", "n") order by "n"),
        "names" = coalesce((select jsonb_object_agg("by_id"("key"), "value") from jsonb_each("names")), '{}'),
        "story" = coalesce((select jsonb_agg("step" || jsonb_strip_nulls(jsonb_build_object('device', "by_id"("step"->>'device'), 'to',
          "by_id"("step"->>'to'))) order by "n")
          from jsonb_array_elements("story") with ordinality as "s" ("step", "n")), '[]');
      update "parking" set "by" = "by_id"("by"), "for" = "by_id"("for"), "caller" = "by_id"("caller"), "taken_by" = "by_id"("taken_by"),
        "names" = coalesce((select jsonb_object_agg("by_id"("key"), "value") from jsonb_each("names")), '{}');
      update "blocked_number" set "by" = "by_id"("by");
      update "message" set "to" = "by_id"("to");
      drop function "by_id";
    `)
    // Every change makes a new version, and every server hears of it.
    this.addSql(`
      create table "company" ("id" int primary key check ("id" = 1), "version" bigint not null);
      insert into "company" values (1, extract(epoch from now())::bigint);
      create function "company_changed"() returns trigger language plpgsql as $$ begin
        update "company" set "version" = greatest("version" + 1, extract(epoch from now())::bigint);
        perform pg_notify('company', '');
        return null;
      end $$;
    `)
    for (const table of companyTables) {
      this.addSql(`create trigger "company_changed" after insert or update or delete on "${table}" for each statement execute function "company_changed"()`)
    }
  }
}

const companyTables = ['site', 'department', 'person', 'telephone', 'call_group', 'call_group_member', 'line', 'trunk', 'park_slot', 'short_number', 'settings']
