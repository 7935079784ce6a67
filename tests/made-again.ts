import { execFile } from 'node:child_process'
import { promisify } from 'node:util'
import { expect, type Stage } from './stage'

/** What is made from the journal, beside what it would be if it were made again. */

const run = promisify(execFile)
export const rebuild = (stage: Stage) => run(process.execPath, ['.output/commands/rebuild.mjs'], {
  env: { ...process.env, DATABASE_OWNER_URL: stage.ownerUrl } })

/** All that is made from the journal. */
export const dump = (stage: Stage) =>
  Promise.all(
    [
      'call_record order by id', 'parking order by call, at', 'blocked_number order by number', 'message order by id', 'conversation order by call',
      'leg order by call, seq, kind, place', 'attendance order by device, epoch, seq', 'call_back order by id', 'mailbox order by device',
    ].map(what => stage.sql<object>(`select * from ${what}`)),
  )

/** Waits until everything that has happened is written. */
export async function settled(stage: Stage): Promise<void> {
  await expect.poll(async () => {
    const { epoch, seq } = stage.cast.state
    return (await stage.sql<{ last: number }>(`select coalesce(max(seq), 0)::int as last from journal where epoch = '${epoch}'`))[0]!.last - seq
  }, { timeout: 60_000 }).toBe(0)
}

/** Whatever has been killed: every table is what the journal makes of it. */
export async function expectMadeAgain(stage: Stage): Promise<void> {
  await settled(stage)
  const before = await dump(stage)
  await rebuild(stage)
  expect(await dump(stage)).toEqual(before)
}
