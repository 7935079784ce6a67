import { Migration } from '@mikro-orm/migrations'

/** Members who may leave a queue, the time after its calls, and why people pause. */
export class QueueMembers extends Migration {
  override up(): void {
    this.addSql(`
      alter table "call_group" add column "wrap_up" int not null default 0 check ("wrap_up" >= 0);
      alter table "call_group_member" add column "voluntary" boolean not null default false;
      alter table "settings" add column "pause_reasons" jsonb not null default '["Break", "Paperwork", "Training", "Called away"]';
    `)
  }
}
