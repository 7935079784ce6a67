import { expect, ribbon, test } from './stage'

/** What goes out of the house: callers handed to numbers outside, and emergency numbers. */

test('a caller handed to an outside number stays in sight after the answer, is taken back by key, and a supervisor sees and ends what talks outside', async ({
  console,
  stage,
  browser,
}) => {
  const call = await stage.cast.ring('Handed Caller')
  const pass = async () => {
    await console.keyboard.type('07700 900444')
    await expect(console.getByText(/Enter passes Handed Caller on to 07700 900444/)).toBeVisible()
    await console.keyboard.press('Enter')
    await expect(ribbon(console, 'Passed on', 'Handed Caller')).toContainText('rings at')
    const leg = stage.cast.state.calls.get(call)!.connections.find(({ party, state }) => party && state === 'alerting')!.device
    await stage.cast.answer(leg, call)
    await expect(ribbon(console, 'Passed on', 'Handed Caller')).toContainText('talks outside with')
  }
  await console.getByRole('button', { name: 'Answer Handed Caller' }).click()
  await pass()
  await console.keyboard.press('Backspace')
  await expect(ribbon(console, 'In hand', 'Handed Caller')).toContainText('talking')
  expect(stage.cast.state.calls.get(call)!.connections).toHaveLength(2)

  await pass()
  const bryony = await stage.open(browser, 'bryony')
  await bryony.getByRole('link', { name: 'Outside' }).click()
  const row = bryony.getByRole('row').filter({ hasText: 'Handed Caller' })
  await expect(row).toContainText('07700 900444')
  await expect(row).toContainText('Ines Quillfeather')
  await row.getByRole('button', { name: /^End the call of/ }).click()
  await expect(bryony.getByText('Nobody. A caller handed on')).toBeVisible()
  await expect(ribbon(console, 'Passed on', 'Handed Caller')).toBeHidden()
  await bryony.context().close()
})

test('an emergency number is typed and dialled like any other, whatever it looks like', async ({ console, stage }) => {
  await console.keyboard.type('999')
  await expect(console.getByText(/Enter calls 999 \(Emergency\)/)).toBeVisible()
  await console.keyboard.press('Enter')
  await expect(ribbon(console, 'In hand', 'Emergency')).toContainText('ringing')
  await expect.poll(() => [...stage.cast.state.calls.values()].some(call => call.connections.some(({ party }) => party?.number === '999'))).toBe(true)
})
