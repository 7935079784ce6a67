import { alone, expect } from './stage'

/** One shift hands over to the next, and operators share the lines between them. */
const test = alone({})

test('what is open is handed over, seen and signed by whoever comes; a note stays until it is done', async ({ own, browser }) => {
  const { cast } = own
  const tomas = await own.open(browser, 'tomas')
  const ines = await own.open(browser, 'ines')
  const call = await cast.ring('Ada <i>Quill</i>')
  await cast.answer('t2101', call)
  await cast.ask({ service: 'holdCall', device: 't2101', call })
  await cast.ask({ service: 'promiseCallBack', device: 't2101', number: '07700 900321', name: 'Bo Tern', queue: 'queue:freight' })
  await cast.ask({ service: 'setOpening', device: 't2101', of: 'harbour', open: false, until: null })

  await tomas.getByRole('link', { name: /^Shift/ }).click()
  const open = tomas.getByRole('region', { name: 'Open now' })
  await expect(open.getByRole('row').filter({ hasText: 'Ada <i>Quill</i>' })).toContainText('on hold with Tomas Arkwell')
  await expect(open.getByRole('row').filter({ hasText: 'Bo Tern' })).toContainText('to be called back by the Freight queue')
  await expect(open.getByRole('row').filter({ hasText: 'Harbour line' })).toContainText('closed by Tomas Arkwell until further notice')
  await tomas.getByRole('button', { name: 'Note it' }).click()
  await expect(tomas.getByRole('region', { name: 'Notes for the next' }).getByRole('alert')).toContainText('Note is missing')
  await tomas.getByLabel('A note').fill('Papers for Thursday <b>are</b> with Freight.')
  await tomas.getByRole('button', { name: 'Note it' }).click()
  const note = (page: typeof tomas) => page.getByRole('region',
    { name: 'Notes for the next' }).getByRole('listitem').filter({ hasText: 'Papers for Thursday <b>are</b>' })
  await expect(note(tomas)).toContainText('Tomas Arkwell')
  await tomas.getByLabel('What the next should know first').fill('The 14:10 is cancelled.')
  await tomas.getByRole('button', { name: 'Hand over the shift' }).click()
  const given = tomas.getByRole('article', { name: /^Handed over by Tomas Arkwell/ })
  await expect(given).toContainText('Nobody has signed it yet.')
  await expect(given.getByRole('button')).toHaveCount(0)

  // Whoever comes hears of it wherever they are.
  await ines.getByRole('link', { name: 'Shift, a hand-over to be signed' }).click()
  const seen = ines.getByRole('article', { name: /^Handed over by Tomas Arkwell/ })
  await expect(seen).toContainText('The 14:10 is cancelled.')
  await expect(seen).toContainText('Note: Papers for Thursday')
  await expect(seen.getByRole('listitem').filter({ hasText: 'Ada <i>Quill</i>' })).toContainText('on hold with Tomas Arkwell')
  await expect(seen).toContainText('3 things were open')
  await seen.getByRole('button', { name: 'I have seen what Tomas Arkwell handed over' }).click()
  await expect(given).toContainText('Seen and signed by Ines Quillfeather')
  await expect(ines.getByRole('link', { name: 'Shift', exact: true })).toBeVisible()
  const staff = await own.open(browser, 'staff')
  expect((await staff.request.get('/api/shift')).status()).toBe(403)
  for (const path of ['notes', 'hand-overs']) expect((await staff.request.post(`/api/shift/${path}`, { data: {} })).status()).toBe(403)
  await note(ines).getByRole('button').click()
  await expect(note(tomas)).toBeHidden()
  await expect(tomas.getByText('Done lately')).toBeVisible()
})

test('a line goes from one operator to another by a word between them', async ({ own, browser }) => {
  const tomas = await own.open(browser, 'tomas')
  const ines = await own.open(browser, 'ines')
  for (const page of [tomas, ines]) await page.getByRole('link', { name: /^Shift/ }).click()
  const ask = async () => {
    await tomas.getByRole('button', { name: 'Ask somebody to take the Freight line' }).click()
    await tomas.getByRole('menuitem', { name: 'Ines Quillfeather' }).click()
  }
  const asked = ines.getByRole('list', { name: 'You are asked' })
  await ask()
  await expect(ines.getByRole('button', { name: /^Tomas Arkwell asks you to take the Freight line; Lines served/ })).toHaveText('You are asked')
  await asked.getByRole('button', { name: 'Not now' }).click()
  await expect(tomas.getByRole('button', { name: 'Ask somebody to take the Freight line' })).toBeVisible()
  await ask()
  await asked.getByRole('button', { name: 'Take it' }).click()
  const lines = tomas.getByRole('region', { name: 'Who takes which line' })
  await expect(lines.getByRole('row').filter({ hasText: 'Freight line' })).toContainText('leaves it until')
  await expect(tomas.getByRole('log', { name: 'What happens' })).toContainText('The Freight line is served by the other now')
  // What comes on it now rings at the one alone.
  await own.cast.ring('Freight Caller', { to: '+441632960010' })
  const rings = (page: typeof tomas) => page.getByText('Freight Caller')
  await expect(rings(ines).first()).toBeVisible()
  await expect(rings(tomas)).toHaveCount(0)
  await tomas.getByRole('button', { name: 'Take the Freight line again' }).click()
  await expect(rings(tomas).first()).toBeVisible()
})
