import AxeBuilder from '@axe-core/playwright'
import type { TelephoneSecret } from '../shared/telephones'
import { anyPort } from '../scripts/processes.mjs'
import { alone, expect, name, ribbon, signedIn } from './stage'
import { Baresip, Lamp, ownAddress } from './telephone-set'

const where = `${ownAddress()}:${await anyPort()}`
const test = alone({ sound: true, sip: where })

test('a telephone is given an account, rings when a caller is passed on, and what is done at it is seen at the console', async ({ own, browser }) => {
  test.setTimeout(120_000)
  const { cast } = own
  const admin = await own.open(browser, 'admin')
  await admin.goto('/company?part=telephones')
  await admin.getByRole('textbox', { name: 'Filter by name or number' }).fill('2150')
  await admin.getByRole('button', { name: cast.state.company.telephones.t2150!.name }).click()
  const account = admin.getByRole('region', { name: 'Telephone of the network' })
  await expect(account).toContainText('It has no account yet')
  await account.getByRole('button', { name: 'Give it an account' }).click()
  await expect(account.getByRole('img', { name: 'The same as a QR code' })).toBeVisible()
  await expect(account).toContainText(where)
  await expect(account).toContainText('No telephone is connected.')
  const secret = await account.getByRole('definition').nth(2).textContent()
  expect(secret).toMatch(/^[a-z2-9]{16}$/)
  expect(JSON.stringify(await own.sql('select * from telephone_account')), 'its secret is kept nowhere').not.toContain(secret)
  expect((await new AxeBuilder({ page: admin }).analyze()).violations).toEqual([])

  // Whoever may not run the company makes none.
  const ines = await signedIn(own.url, 'ines')
  expect((await ines.post('/api/telephones/t2150/account', { data: {} })).status()).toBe(403)
  const keeper = await signedIn(own.url, 'admin')
  expect((await keeper.post('/api/telephones/nothing/account', { data: {} })).status()).toBe(404)
  const other = await (await keeper.post('/api/telephones/t2105/account', { data: {} })).json() as TelephoneSecret

  const [set, second] = await Promise.all([Baresip.start('2150', secret!, where, 700), Baresip.start('2105', other.secret, where, 1_100)])
  try {
    await expect(account).toContainText('A telephone is connected.')
    await admin.screenshot({ path: '/tmp/acc.png' })
    const console = await own.open(browser, 'ines')
    await cast.ring('Isla Brightwater')
    await expect(ribbon(console, 'Arriving', 'Isla Brightwater')).toBeVisible()
    await console.keyboard.press('Enter')
    await expect(ribbon(console, 'In hand', 'Isla Brightwater')).toBeVisible()
    await name(console, cast.state.company.telephones.t2150!.name)
    await console.keyboard.press('Enter')
    await expect.poll(() => set.saw('CALL_INCOMING')).toBe(true)
    expect(set.events.find(({ type }) => type === 'CALL_INCOMING')?.peerdisplayname).toContain('Isla Brightwater')
    await expect(ribbon(console, 'Passed on', 'Isla Brightwater')).toBeVisible()
    set.press('accept')
    await expect(ribbon(console, 'Passed on', 'Isla Brightwater')).toBeHidden()

    // By its own keys: on hold, and on to a colleague.
    set.press('hold')
    await expect.poll(() => [...cast.state.calls.values()].map(call => call.connections.find(({ device }) => device === 't2150')?.state)).toEqual(['held'])
    set.press('resume')
    await expect.poll(() => [...cast.state.calls.values()].map(call => call.connections.find(({ device }) => device === 't2150')?.state)).toEqual(['connected'])
    set.press('transfer', `sip:2105@${where}`)
    await expect.poll(() => second.saw('CALL_INCOMING')).toBe(true)
    second.press('accept')
    await expect.poll(() => [...cast.state.calls.values()].map(call => call.connections.find(({ device }) => device === 't2105')?.state)).toEqual(['connected'])

    // A message that is taken for somebody lights the lamp of their telephone.
    const message = { to: 't2105', caller: 'Isla Brightwater', number: null, text: 'The keys are here.', urgent: false, callBack: false }
    const lamp = await Lamp.ask('message-summary', '2105', other, where)
    await expect.poll(() => lamp.shown).toContain('Messages-Waiting: no')
    expect((await ines.post('/api/messages', { data: message })).ok()).toBe(true)
    await expect.poll(() => lamp.shown).toContain('Messages-Waiting: yes')
    lamp.stop()

    // Its account taken away: it is disconnected at once.
    await account.getByRole('button', { name: 'Take the account away…' }).click()
    await account.getByRole('button', { name: 'Take it away: the telephone is disconnected at once' }).click()
    await expect(account).toContainText('The account is taken away.')
    await expect.poll(() => cast.state.devices.get('t2150')?.registered).toBeUndefined()
  }
  finally {
    await Promise.all([set.stop(), second.stop()])
  }
})
