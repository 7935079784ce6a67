import { Migration } from '@mikro-orm/migrations'

/** What figures are made of: every stay of a call where it waits, and when operators are there; and the figures of days that are over, kept. */
export class Figures extends Migration {
  override up(): void {
    this.addSql(`
      create table "leg" (
        "call" text not null,
        "seq" int not null,
        "kind" text not null,
        "place" text not null,
        "epoch" text not null,
        "at" timestamptz not null,
        "began" bigint not null,
        "direction" text not null,
        "line" text null,
        "number" text null,
        "passed_by" text null,
        "back" boolean not null,
        "end" text not null,
        "ended_seq" int null,
        "cause" text null,
        "by" text null,
        "waited" bigint null,
        "talked" bigint null,
        "held" bigint not null default 0,
        "next" text null,
        primary key ("call", "seq", "kind", "place")
      );
      create index "leg_at" on "leg" ("at");
      create index "leg_open" on "leg" ("epoch") where "end" = 'waiting' or ("end" = 'answered' and "talked" is null);
      -- Those that may reach into days after the next.
      create index "leg_long" on "leg" ("at")
        where "waited" is null or ("end" = 'answered' and "talked" is null) or "waited" + coalesce("talked", 0) > 86400000;

      create table "attendance" (
        "device" text not null,
        "epoch" text not null,
        "seq" int not null,
        "at" timestamptz not null,
        "until" timestamptz null,
        primary key ("device", "epoch", "seq")
      );
      create index "attendance_at" on "attendance" ("at");

      -- Which days (of UTC) something has changed in, counted on and on.
      create sequence "figures_change";
      grant usage on sequence "figures_change" to public;
      create table "figures_changed" ("day" date primary key, "change" bigint not null);
      create function "figures_change_days"(first timestamptz[], last timestamptz[]) returns void language sql as $$
        insert into "figures_changed" ("day", "change")
        select day, nextval('figures_change') from (
          select distinct generate_series((f at time zone 'UTC')::date, (l at time zone 'UTC')::date, '1 day')::date as day
          from unnest(first, last) as span(f, l)
          order by day
        ) days
        on conflict ("day") do update set "change" = excluded."change";
      $$;
      create function "leg_changed"() returns trigger language plpgsql as $$
      begin
        perform figures_change_days(array_agg(at), array_agg(at + (coalesce(waited, 0) + coalesce(talked, 0)) * interval '1 millisecond')) from changed
          having count(*) > 0;
        return null;
      end $$;
      create trigger "leg_inserted" after insert on "leg" referencing new table as changed for each statement execute function leg_changed();
      create trigger "leg_updated" after update on "leg" referencing new table as changed for each statement execute function leg_changed();
      create trigger "leg_deleted" after delete on "leg" referencing old table as changed for each statement execute function leg_changed();
      create function "attendance_changed"() returns trigger language plpgsql as $$
      begin
        perform figures_change_days(array_agg(at), array_agg(coalesce(until, at))) from changed having count(*) > 0;
        return null;
      end $$;
      create trigger "attendance_inserted" after insert on "attendance" referencing new table as changed
        for each statement execute function attendance_changed();
      create trigger "attendance_updated" after update on "attendance" referencing new table as changed
        for each statement execute function attendance_changed();
      create trigger "attendance_deleted" after delete on "attendance" referencing old table as changed
        for each statement execute function attendance_changed();

      -- "made_of": the rules, and the changes up to which it was counted.
      create table "day_figures" (
        "day" date not null,
        "subject" text not null,
        "made_of" text not null,
        "figures" jsonb not null,
        primary key ("day", "subject")
      );

      alter table "settings"
        add column "service_level" text not null default 'offered' check ("service_level" in ('offered', 'answered')),
        add column "short_abandon" int not null default 5000;
      update "house_rules" set "kept" = jsonb_set(jsonb_set("kept",
        '{may,supervisor}', "kept"->'may'->'supervisor' || '["readFigures"]'), '{may,administrator}', "kept"->'may'->'administrator' || '["readFigures"]')
        where "kept"->'may'->'supervisor' is not null and "kept"->'may'->'administrator' is not null;
    `)
  }
}
