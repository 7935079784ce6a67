import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import AxeBuilder from '@axe-core/playwright'
import type { Browser, Page } from '@playwright/test'
import { generateKeyPair, SignJWT } from 'jose'
import { Provider } from 'oidc-provider'
import { demoPassword } from '../scripts/stack.mjs'
import { alone, expect, type Stage } from './stage'

/** The house's identity provider: a certified one, of another site than ours. */
let handle: (request: IncomingMessage, response: ServerResponse) => unknown = () => {}
const house = createServer((request, response) => void handle(request, response))
await new Promise<void>(resolve => house.listen(0, 'localhost', resolve))
const { port } = house.address() as AddressInfo
const issuer = `http://localhost:${port}`
const test = alone({ serverEnv: { NUXT_CALENDAR_ORIGINS: issuer } })
test.afterAll(() => house.close())

/** Who has an account there. */
const people = new Map<string, { name: string, groups: string[] }>()

function provide(url: string): void {
  const provider = new Provider(issuer, {
    clients: [{
      client_id: 'estafette', client_secret: 'told to the client', redirect_uris: [`${url}/signed-in`], post_logout_redirect_uris: [`${url}/sign-in`],
      backchannel_logout_uri: `${url}/api/identity/ended`, backchannel_logout_session_required: true, token_endpoint_auth_method: 'client_secret_post',
    }],
    cookies: { keys: ['one of the house'] },
    claims: { openid: ['sub'], profile: ['name', 'preferred_username', 'groups'] },
    scopes: ['openid', 'profile'],
    features: { backchannelLogout: { enabled: true }, rpInitiatedLogout: { enabled: true }, devInteractions: { enabled: true } },
    findAccount: (_context, id) => people.has(id)
      ? { accountId: id, claims: () => ({ sub: id, preferred_username: id, ...people.get(id) }) }
      : undefined,
    loadExistingGrant: async ({ oidc }) => {
      const grant = new oidc.provider.Grant({ clientId: oidc.client!.clientId, accountId: oidc.session!.accountId! })
      grant.addOIDCScope('openid profile')
      await grant.save()
      return grant
    },
    pkce: { required: () => true },
    // It may tell us of an end although we are on its own machine.
    fetch: (address, { method, headers, body } = {}) => fetch(address, { method, headers, body }),
  })
  handle = provider.callback()
}

async function signInThere(page: Page, url: string, who: string): Promise<void> {
  await page.goto(`${url}/sign-in`)
  await page.getByRole('button', { name: 'Sign in with The house' }).click()
  await page.locator('input[name=login]').fill(who)
  await page.locator('input[name=password]').fill('any')
  await page.getByRole('button', { name: 'Sign-in' }).click()
}
const fresh = async (browser: Browser) => (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
const field = (page: Page) => page.getByRole('combobox', { name: 'Who is it for?' })

async function setUp(own: Stage, browser: Browser): Promise<Page> {
  provide(own.url)
  const admin = await own.open(browser, 'admin')
  await admin.goto('/accounts')
  await admin.getByRole('button', { name: 'Sign-in by the house\'s provider…' }).click()
  const form = admin.getByRole('form', { name: 'The identity provider' })
  const keep = form.getByRole('button', { name: 'Have people sign in by it' })
  await keep.click()
  await expect(form).toContainText('What people call it is missing')
  await form.getByLabel('What people call it').fill('The house')
  await form.getByLabel('Issuer').fill('http://10.0.0.1')
  await form.getByLabel('Client', { exact: true }).fill('estafette')
  await form.getByLabel('Secret of the client').fill('told to the client')
  await form.getByLabel('Scopes').fill('openid profile')
  await keep.click()
  await expect(form).toContainText('The issuer must begin with https://.')
  await form.getByLabel('Issuer').fill('https://10.0.0.1')
  await keep.click()
  await expect(form).toContainText('The address lies in our own network, where nothing may be fetched.')
  await form.getByLabel('Issuer').fill(issuer)
  for (const [at, group, role] of [[1, 'leads', 'supervisor'], [2, 'desk', 'operator']] as const) {
    await form.getByRole('button', { name: 'Another group' }).click()
    await form.getByLabel(`Group ${at}`, { exact: true }).fill(group)
    await form.getByLabel(`Role of group ${at}`).press('Enter')
    // The list before it may still be closing.
    await admin.getByRole('listbox', { name: `Role of group ${at}` }).getByRole('option', { name: role }).click()
  }
  expect((await new AxeBuilder({ page: admin }).analyze()).violations).toEqual([])
  await keep.click()
  await expect(admin.getByText('People sign in with The house from now on.')).toBeVisible()
  expect(JSON.stringify(await own.sql('select * from identity_provider'))).not.toContain('told to the client')
  return admin
}

test('people sign in by the house\'s identity provider: found or made, with the role of their groups, and out from both sides', async ({ own, browser }) => {
  test.setTimeout(180_000)
  const admin = await setUp(own, browser)
  const { company } = own.cast.state
  const person = company.people[company.telephones.t2140!.person!]!
  const name = `${person.first} ${person.last}`
  people.set('quill', { name, groups: ['desk', 'choir'] })
  people.set('ines', { name: 'Ines elsewhere', groups: ['desk'] })
  people.set('choir', { name: 'Of the choir alone', groups: ['choir'] })

  // Somebody new gets an account, is who they are in the company, and may what their group may.
  const page = await fresh(browser)
  await signInThere(page, own.url, 'quill')
  await expect(field(page)).toBeFocused()
  await expect(page.getByRole('link', { name: `${name} · 2140` })).toBeVisible()
  await expect(page).toHaveURL(`${own.url}/`)
  expect(await own.sql('select role, person, name from account where sign_in = \'quill\'')).toEqual([{ role: 'operator', person: person.id, name }])
  expect(JSON.stringify(await own.sql('select id_token from session where provider_subject is not null'))).not.toMatch(/eyJ[\w-]+\.eyJ/)

  // Ended there: the console here is over at once.
  await page.goto(`${issuer}/session/end`)
  const other = await fresh(browser)
  await signInThere(other, own.url, 'ines')
  await expect(field(other)).toBeFocused()
  const watching = await page.context().newPage()
  await watching.goto(own.url)
  await expect(field(watching)).toBeFocused()
  await page.getByRole('button', { name: 'Yes, sign me out' }).click()
  await expect(watching.getByLabel('Sign-in name')).toBeVisible()
  await expect(field(other)).toBeFocused()

  // Ended here: there too. The next time they have to say who they are; by now they lead.
  people.get('quill')!.groups = ['leads']
  await signInThere(watching, own.url, 'quill')
  await expect(watching.getByRole('link', { name: 'Reports', exact: true })).toBeVisible()
  await admin.goto('/accounts')
  await expect(admin.getByRole('row').filter({ hasText: 'the identity provider' }).first()).toContainText('operator')
  await watching.getByRole('button', { name: 'Sign out' }).click()
  await watching.getByRole('button', { name: 'Yes, sign me out' }).click()
  await expect(watching).toHaveURL(new RegExp(`^${own.url}/sign-in`))
  await watching.getByRole('button', { name: 'Sign in with The house' }).click()
  await expect(watching.locator('input[name=login]')).toBeVisible()

  // Who may not come in is told why.
  const third = await fresh(browser)
  await signInThere(third, own.url, 'choir')
  await expect(third.getByRole('heading', { name: 'Not signed in' })).toBeFocused()
  await expect(third.getByRole('alert')).toContainText('None of your groups at The house may come in here.')
  expect(await own.sql('select 1 from account where sign_in = \'choir\'')).toEqual([])
  await own.sql('update account set disabled = true where sign_in = \'quill\'')
  await signInThere(watching, own.url, 'quill')
  await expect(watching.getByRole('alert')).toContainText('Your account is shut.')

  // The last administrator stays one, whatever their groups say.
  await own.sql('update account set role = \'supervisor\' where role = \'administrator\' and sign_in <> \'admin\'')
  people.set('admin', { name: 'Administrator', groups: ['desk'] })
  const fourth = await fresh(browser)
  await signInThere(fourth, own.url, 'admin')
  await expect(fourth.getByRole('link', { name: 'Accounts' })).toBeVisible()
  for (const one of [page, other, third, fourth]) await one.context().close()
})

test('nobody comes in, or is put out, by anything that the provider has not said; away, it is said, and a password is good', async ({ own, browser }) => {
  test.setTimeout(120_000)
  const admin = await setUp(own, browser)
  people.set('ines', { name: 'Ines Quillfeather', groups: ['desk'] })
  const finish = (page: Page, query: string) => page.request.post(`${own.url}/api/identity/finish`, { data: { query } })
  const page = await fresh(browser)
  await page.goto(`${own.url}/sign-in`)
  expect((await finish(page, '?code=made-up&state=made-up')).status(), 'begun by nobody').toBe(401)

  // What comes back is caught on its way: it is good in the browser that began alone, and once.
  let query = ''
  await page.route('**/api/identity/finish', async (route) => {
    query = (route.request().postDataJSON() as { query: string }).query
    await route.abort()
  })
  await signInThere(page, own.url, 'ines')
  await expect(page.getByRole('heading', { name: 'Not signed in' })).toBeVisible()
  const thief = await fresh(browser)
  expect((await finish(thief, query)).status(), 'in another browser').toBe(401)
  await thief.request.post(`${own.url}/api/identity/begin`, { data: {} })
  expect((await finish(thief, query)).status(), 'in one that has begun as well').toBe(401)
  const wrongState = await finish(page, query.replace(/state=[^&]+/, 'state=another'))
  expect(wrongState.status()).toBe(401)
  expect((await finish(page, query)).status(), 'what the browser kept was good for one time').toBe(401)
  await page.unroute('**/api/identity/finish')
  await page.goto(`${own.url}/sign-in`)
  await page.getByRole('button', { name: 'Sign in with The house' }).click()
  await expect(field(page)).toBeFocused()

  // Words about an end that the provider has not signed.
  const { privateKey } = await generateKeyPair('RS256')
  const forged = await new SignJWT({ events: { 'http://schemas.openid.net/event/backchannel-logout': {} }, sub: 'ines' })
    .setProtectedHeader({ alg: 'RS256', typ: 'logout+jwt' }).setIssuer(issuer).setAudience('estafette').setIssuedAt().setExpirationTime('2m').setJti('x')
    .sign(privateKey)
  const written = (part: object) => Buffer.from(JSON.stringify(part)).toString('base64url')
  const unsigned = `${written({ alg: 'none' })}.${written({ iss: issuer, aud: 'estafette', sub: 'ines' })}.`
  for (const token of [forged, unsigned, 'nothing', `${forged.slice(0, -4)}AAAA`])
    expect((await page.request.post(`${own.url}/api/identity/ended`, { form: { logout_token: token } })).status()).toBe(400)
  expect((await page.request.post(`${own.url}/api/identity/ended`, { form: {} })).status()).toBe(422)
  expect((await page.request.post(`${own.url}/api/identity/ended`, { data: { logout_token: forged } })).status()).toBe(400)
  await expect(field(page)).toBeVisible()
  expect(await own.sql('select 1 from session where provider_subject = \'ines\'')).toHaveLength(1)

  // Away: said to whoever wants in and to the administrator; a password is as good as ever.
  house.closeAllConnections()
  handle = (_request, response) => response.destroy()
  await admin.goto('/connections')
  await admin.getByRole('button', { name: 'Try The house now' }).click()
  await expect(admin.getByRole('complementary')).toContainText('The identity provider can\'t be asked')
  const later = await fresh(browser)
  await later.goto(`${own.url}/sign-in`)
  await later.getByRole('button', { name: 'Sign in with The house' }).click()
  await expect(later.getByRole('alert')).toContainText('The identity provider can\'t be asked')
  await later.getByLabel('Sign-in name').fill('ines')
  await later.getByLabel('Password').fill(demoPassword)
  await later.getByLabel('Password').press('Enter')
  await expect(field(later)).toBeFocused()

  expect((await page.request.get(`${own.url}/api/identity/settings`)).status()).toBe(403)
  provide(own.url)
  await admin.goto('/identity')
  await admin.getByRole('button', { name: 'Nobody signs in by it any more' }).click()
  await expect(admin.getByText('Who had, is signed out.')).toBeVisible()
  await expect(page.getByLabel('Sign-in name')).toBeVisible()
  await expect(page.getByRole('button', { name: /^Sign in with/ })).toHaveCount(0)
})
