import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { prepareDatabase } from '../scripts/database.mjs'
import { createStack } from '../scripts/stack.mjs'
import { expect, signIn, test, withClient } from './stage'

/** The months before a demo come while it is in use, the newest week first. */
test('earlier weeks come behind, are told on the pages that need them, survive being killed, and change nothing of what lives', async ({ browser }) => {
  test.setTimeout(300_000)
  const name = 'history_behind'
  const admin = process.env.TEST_DATABASE!
  const url = admin.replace(/\/postgres$/, `/${name}`)
  const until = '2031-05-14T09:30:00Z'
  const serverUrl = await prepareDatabase(admin, name, { history: 14, behind: true, until })
  const sql = <Row extends object>(text: string) => withClient(url, async client => (await client.query<Row>(text)).rows)
  const stack = createStack({ databaseUrl: serverUrl, exchangeArgs: ['--clock', until, '--pace', 'still'], output: 'ignore' })
  await stack.start()
  const command = (name: string) =>
    spawn(process.execPath, [`.output/commands/${name}.mjs`], {
      env: { ...process.env, NUXT_DATABASE_URL: serverUrl, DATABASE_OWNER_URL: url }, stdio: 'ignore',
    })
  const remember = () => command('history')
  const done = async () => (await sql<{ done: number }>('select done from history_under_way'))[0]!.done
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await signIn(page, stack.url, 'bryony')
    await page.getByRole('link', { name: 'Call log' }).click()
    await expect(page.getByText('The weeks before today are being brought in, the newest first: 0 of 3 are there.')).toBeVisible()

    // Killed in the middle of a week, that week is not there; the next time it goes on.
    const first = remember()
    // At the lowest priority: beside other tests a week takes as long as they let it.
    await expect.poll(done, { intervals: [50], timeout: 120_000 }).toBe(1)
    first.kill('SIGKILL')
    await once(first, 'exit')
    const weeks = async () => (await sql<{ epoch: string }>('select distinct epoch from call_record order by 1')).map(({ epoch }) => epoch)
    const [newest] = await weeks()
    expect(await weeks()).toEqual([newest])
    await expect(page.getByText('1 of 3 are there.')).toBeVisible()
    await expect(page.getByRole('row').nth(5)).toBeVisible()

    const [code] = await once(remember(), 'exit') as [number]
    expect(code).toBe(0)
    expect(await done()).toBe(3)
    // As the start command runs it, and with nothing left to bring in.
    const bound = spawn(process.execPath, ['.output/commands/history.mjs'], {
      env: { ...process.env, NUXT_DATABASE_URL: serverUrl }, stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    })
    expect(await once(bound, 'exit')).toEqual([0, null])
    expect(await weeks()).toHaveLength(3)
    await expect(page.getByText('The weeks before today are being brought in')).toBeHidden()
    expect((await sql('select 1 from call_record where outcome in (\'lost\', \'live\')'))).toEqual([])
    expect((await sql('select 1 from attendance where until is null and epoch like \'w%\''))).toEqual([])

    // Made again from the journal, everything is as it was: the weeks are read in their own order, whichever came first.
    const made = () => sql('select id, outcome, started_at, ended_at, answered_by, ended_with from call_record order by id')
    const legs = () => sql('select call, seq, kind, place, "end", waited, talked from leg order by 1, 2, 3, 4')
    const before = [await made(), await legs()]
    expect(await once(command('rebuild'), 'exit')).toEqual([0, null])
    expect([await made(), await legs()]).toEqual(before)
    await page.close()
  }
  finally {
    await stack.stop()
  }
})
