import { expect, test } from './stage'

/** A strip of 380 pixels beside other programs. */
test('records are cards there: nothing lies beside the screen, and who hears them hears a table', async ({ stage, browser }) => {
  const admin = await stage.open(browser, 'admin')
  await admin.setViewportSize({ width: 380, height: 800 })
  for (const [path, column, cell] of [['/accounts', 'Sign-in name', 'ines'], ['/connections', 'Kind', 'Telephones']] as const) {
    await admin.goto(path)
    // What stands before it on the card is heard with it.
    const told = admin.getByRole('row').getByRole('cell', { name: `${column} ${cell}`, exact: true }).first()
    await expect(told).toBeVisible()
    await expect(told).toHaveAttribute('data-told', column)
    await expect(admin.getByRole('columnheader', { name: column })).toBeAttached()
    const beyond = await admin.locator('.records tbody *').evaluateAll(all =>
      all.filter(one => one.getBoundingClientRect().right > innerWidth + 1).map(one => one.textContent))
    expect(beyond, path).toEqual([])
    expect(await admin.evaluate(() => document.documentElement.scrollWidth <= innerWidth), path).toBe(true)
  }
  await admin.context().close()
})

test('the band of calls keeps its count, however long a name is', async ({ console, stage }) => {
  const { cast } = stage
  await console.setViewportSize({ width: 380, height: 800 })
  await console.goto('/contacts')
  for (const number of ['+441632960871', '+441632960872', '+441632960873'])
    await cast.ring(`Somebody with a name that is as long as ${number}`, { from: number })
  const count = console.getByRole('region', { name: 'Calls' }).locator('.count').first()
  await expect(count).toHaveText('3')
  const box = await count.boundingBox()
  expect(box!.x + box!.width).toBeLessThan(380)
})

test('the log is cards there as well, and a number is not broken', async ({ console, stage }) => {
  await stage.cast.ring('Strip Caller', { from: '+441632960899' })
  await console.setViewportSize({ width: 380, height: 800 })
  await console.goto('/log')
  const who = console.getByRole('cell', { name: /^Who .*Strip Caller/ })
  await expect(who).toHaveAttribute('data-told', 'Who')
  const number = who.getByText('01632 960899')
  const [box, size] = await Promise.all([number.boundingBox(), number.evaluate(one => Number.parseFloat(getComputedStyle(one).fontSize))])
  expect(box!.height).toBeLessThan(2 * size)
  expect(await console.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true)
})
