import { alone, expect } from './stage'

/** Everything at once, for whoever answers for the whole, and on a wall. */
const test = alone({ exchangeArgs: ['--clock', '2031-05-12T08:00:00Z'] })

test('who waits and how late, whom operators have, queues with who has paused: live, also on a wall', async ({ own, browser }) => {
  const { cast } = own
  cast.present(['t2100'])
  const supervisor = await own.open(browser, 'bryony')
  await supervisor.getByRole('link', { name: 'Figures' }).click()
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

  await supervisor.setViewportSize({ width: 1920, height: 1080 })
  await supervisor.getByRole('link', { name: 'For a wall' }).click()
  await expect(supervisor.getByRole('link')).toHaveCount(0)
  await expect(supervisor.getByRole('region', { name: /^Who waits/ })).toContainText('Bo <b>Tern</b>')
  await cast.hangUp(late)
  await expect(supervisor.getByRole('region', { name: /^Who waits/ })).not.toContainText('Bo <b>Tern</b>')
  expect(await supervisor.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true)
})
