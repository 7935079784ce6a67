import { expect, test } from './stage'

/** While nobody calls the console tells something; when somebody does, that gives way. */
test('a quiet console: how the day stands, what is due next, who was passed on last; a call takes its place, and nothing moves', async ({ console, stage }) => {
  const { cast } = stage
  const day = console.getByRole('table', { name: 'Today on your lines' })
  const next = console.getByRole('region', { name: 'Next' })
  const passed = console.getByRole('region', { name: 'Your last callers' })
  await expect(day.getByRole('row', { name: /^General line/ })).toBeVisible()
  const until = Date.now() + 60 * 60_000
  await cast.ask({ service: 'setStatus', device: 't2110', reason: 'lunch', until })
  const { first, last } = cast.state.company.people.p2110!
  await expect(next.getByRole('listitem').filter({ hasText: `${first} ${last} is back` })).toBeVisible({ timeout: 15_000 })

  const slot = console.getByRole('button', { name: /slot 1/i }).first()
  const stood = await slot.boundingBox()
  const call = await cast.ring('Quiet Caller', { from: '+447700900177' })
  await expect(day).toBeHidden()
  expect(await slot.boundingBox()).toEqual(stood)
  await cast.answer('t2100', call)
  await cast.ask({ service: 'singleStepTransferCall', device: 't2100', call, to: 't2111' })
  await cast.answer('t2111', call)
  await cast.hangUp(call)
  await expect(day).toBeVisible()
  await expect(passed.getByRole('listitem').filter({ hasText: 'Quiet Caller' })).toContainText(/to \S+ \S+/)
  expect(await slot.boundingBox()).toEqual(stood)
})
