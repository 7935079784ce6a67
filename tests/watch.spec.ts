import { alone, expect } from './stage'

/** Everything at once, for whoever answers for the whole, and on a wall. */
const test = alone({ exchangeArgs: ['--clock', '2031-05-12T08:00:00Z'] })

test('who waits and how late, whom operators have, queues with who has paused: live, also on a wall', async ({ own, browser }) => {
  const { cast } = own
  cast.present(['t2100'])
  const supervisor = await own.open(browser, 'bryony')
  await supervisor.getByRole('link', { name: 'Reports', exact: true }).click()
  await supervisor.getByRole('link', { name: 'Watching' }).click()
  const waiting = supervisor.getByRole('region', { name: /^Who waits/ })
  const operators = supervisor.getByRole('region', { name: 'Operators' })
  const queues = supervisor.getByRole('region', { name: 'Queues' })
  await expect(waiting).toContainText('Nobody waits.')
  await expect(operators.getByRole('listitem').filter({ hasText: 'Tomas Arkwell' })).toContainText('not there')

  const held = await cast.ring('Ada Quill', { from: '+447700900111', to: '+441632960000' })
  await cast.answer('t2100', held)
  await expect(operators.getByRole('listitem').filter({ hasText: 'Ines Quillfeather' })).toContainText('with Ada Quill')
  await cast.ask({ service: 'holdCall', device: 't2100', call: held })
  await expect(waiting.getByRole('listitem').filter({ hasText: 'Ada Quill' })).toContainText('on hold with Ines Quillfeather')
  const late = await cast.ring('Bo <b>Tern</b>', { from: '+447700900112', to: '+441632960000' })
  cast.advance(50_000)
  // Whoever is later stands first.
  await expect(waiting.getByRole('listitem').first()).toContainText('Bo <b>Tern</b>')
  await expect(waiting).toContainText('1 past the promise')

  const [member] = cast.state.company.groups['queue:freight']!.members
  await cast.ask({ service: 'setQueueServed', device: member!, queue: 'queue:freight', state: 'paused', reason: 'Training' })
  await expect(supervisor.getByRole('region', { name: 'Serve no queue for the time being' })).toContainText('Training')
  const freight = queues.getByRole('listitem').filter({ hasText: 'Freight queue' })
  await freight.getByRole('button', { name: 'Freight queue' }).click()
  await expect(supervisor.getByRole('complementary', { name: 'Freight queue' }).getByRole('button', { name: /^Close the/ })).toBeVisible()

  // From near: what has happened to a call, and what can be done for its caller.
  await waiting.getByRole('button', { name: 'Ada Quill' }).click()
  const near = supervisor.getByRole('complementary', { name: 'The chosen call' })
  await expect(near).toContainText('Ines Quillfeather put the call on hold')
  await near.getByRole('button', { name: 'Move it' }).click()
  await expect(near.getByRole('alert')).toContainText('To is missing')
  await near.getByRole('combobox', { name: 'Move the call to' }).fill('Freight q')
  await supervisor.getByRole('option', { name: 'Freight queue' }).click()
  await near.getByRole('button', { name: 'Move it' }).click()
  await expect.poll(() => cast.state.calls.get(held)?.connections.some(({ device }) => device === 'queue:freight')).toBe(true)
  await expect(near).toContainText('Bryony Lusk passed it on to Freight queue')
  await near.getByRole('button', { name: 'Take Ada Quill' }).click()
  await expect(near).toContainText('You are in this call')
  await expect(operators.getByRole('listitem').filter({ hasText: 'Bryony Lusk' })).toContainText('with Ada Quill')
  await near.getByRole('button', { name: 'Close' }).click()

  await supervisor.setViewportSize({ width: 1920, height: 1080 })
  await supervisor.getByRole('link', { name: 'For a wall' }).click()
  await expect(supervisor.getByRole('link')).toHaveCount(0)
  const longest = supervisor.getByRole('region', { name: 'Waits longest' })
  await expect(longest).toContainText('Bo <b>Tern</b>')
  await expect(longest).toContainText(/\d+:\d\d/)
  const count = supervisor.getByRole('region', { name: 'Waiting', exact: true })
  const [before] = await count.getByText(/^\d+$/).allInnerTexts()
  await expect(supervisor.getByRole('region', { name: 'Operators free' })).toContainText('Bryony Lusk')
  await expect(supervisor.getByRole('region', { name: 'In time today' })).toContainText(/\d+ of \d+ answered, \d+ gave up/)
  await expect(supervisor.getByRole('region', { name: 'Queues' }).getByRole('row', { name: /^Freight queue/ })).toBeVisible()
  await cast.hangUp(late)
  await expect(longest).not.toContainText('Bo <b>Tern</b>')
  await expect(count.getByText(String(Number(before) - 1), { exact: true })).toBeVisible()
  expect(await supervisor.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true)
})
