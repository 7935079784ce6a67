import { Migration } from '@mikro-orm/migrations'

/** Queues that ring their members, and what callers hear who wait, or who call while it is closed. */
export class RingingQueues extends Migration {
  override up(): void {
    this.addSql(`
      alter table "call_group"
        add column "ringing" text not null default 'none' check ("ringing" in ('none', 'longestFree', 'all', 'order', 'turn', 'skill')),
        add column "ring_time" int not null default 15000 check ("ring_time" >= 0),
        add column "pause_after" int not null default 0 check ("pause_after" >= 0),
        add column "tell_every" int not null default 0 check ("tell_every" >= 0),
        add column "closed_text" text not null default '';
      alter table "call_group_member" add column "skill" int not null default 0 check ("skill" between 0 and 9);
      alter table "line" add column "closed_text" text not null default '';
    `)
  }
}
