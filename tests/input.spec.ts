import type { APIRequestContext } from '@playwright/test'
import { demoPassword } from '../scripts/stack.mjs'
import { allIsQuiet, expect, ribbon, test } from './stage'

/** Whatever is sent: a 4xx with a sentence, no change, never a 5xx. */

const huge = 'x'.repeat(5_000)
const id = () => crypto.randomUUID()

async function signedIn(request: APIRequestContext, url: string, who: string): Promise<void> {
  const answer = await request.post(`${url}/api/session`, { data: { signIn: who, password: demoPassword } })
  expect(answer.status()).toBe(200)
}

const badRequests: [string, unknown, number][] = [
  ['nothing', undefined, 422],
  ['a list', [], 422],
  ['a string', '"hello"', 422],
  ['no service', { id: id(), device: 't2100' }, 422],
  ['an unknown service', { id: id(), service: 'dance', device: 't2100' }, 422],
  ['a service of the network', { id: id(), service: 'offerCall', trunk: 'east', party: { number: null, name: null }, number: '+441632960000' }, 422],
  ['the clock', { id: id(), service: 'tick' }, 422],
  ['no device', { id: id(), service: 'answerCall', call: 'x' }, 422],
  ['a device that is a number', { id: id(), service: 'answerCall', device: 2100, call: 'x' }, 422],
  ['a device of somebody else', { id: id(), service: 'makeCall', device: 't2101', number: 't2150' }, 403],
  ['an outside leg', { id: id(), service: 'clearConnection', device: 'east#1', call: 'x' }, 403],
  ['a prototype as device', { id: id(), service: 'makeCall', device: '__proto__', number: 't2150' }, 403],
  ['no request id', { service: 'makeCall', device: 't2100', number: 't2150' }, 422],
  ['a request id that is an object', { id: {}, service: 'makeCall', device: 't2100', number: 't2150' }, 422],
  ['an unknown call', { id: id(), service: 'answerCall', device: 't2100', call: 'nowhere' }, 409],
  ['a call named like a prototype', { id: id(), service: 'answerCall', device: 't2100', call: '__proto__' }, 409],
  ['a call named constructor', { id: id(), service: 'holdCall', device: 't2100', call: 'constructor' }, 409],
  ['a huge call', { id: id(), service: 'answerCall', device: 't2100', call: huge }, 422],
  ['a huge number', { id: id(), service: 'makeCall', device: 't2100', number: huge }, 422],
  ['a number that is none', { id: id(), service: 'makeCall', device: 't2100', number: '<script>' }, 409],
  ['control characters', { id: id(), service: 'makeCall', device: 't2100', number: '21\u000050' }, 409],
  ['an unknown reason', { id: id(), service: 'setStatus', device: 't2100', reason: 'holiday', until: null }, 422],
  ['a time that is a word', { id: id(), service: 'setStatus', device: 't2100', reason: 'lunch', until: 'noon' }, 422],
  ['a time without end', { id: id(), service: 'setStatus', device: 't2100', reason: 'lunch', until: 1e300 }, 422],
  ['a transfer to a prototype', { id: id(), service: 'singleStepTransferCall', device: 't2100', call: 'x', to: '__proto__' }, 409],
  ['a huge note', { id: id(), service: 'singleStepTransferCall', device: 't2100', call: 'x', to: 't2150', note: huge }, 422],
  ['a strange distribution', { id: id(), service: 'deflectCall', device: 't2100', call: 'x', to: 't2150', distribution: 'random' }, 422],
  ['a slot that is a number', { id: id(), service: 'parkCall', device: 't2100', call: 'x', slot: 3, for: null }, 422],
  ['a park without its slot', { id: id(), service: 'parkCall', device: 't2100', call: 'x', for: null }, 422],
  ['a consultation about nothing', { id: id(), service: 'consultationCall', device: 't2100', call: 'x', number: 't2150' }, 409],
  ['joining nothing', { id: id(), service: 'conferenceCall', device: 't2100', call: 'x', other: 'y' }, 409],
  ['picking up in no group', { id: id(), service: 'groupPickupCall', device: 't2100', group: 'group:none' }, 409],
  ['digits that are an object', { id: id(), service: 'generateDigits', device: 't2100', call: 'x', digits: {} }, 422],
  ['a line that is none', { id: id(), service: 'setLineServed', device: 't2100', line: '__proto__', on: false, until: null }, 409],
  ['a block without a reason', { id: id(), service: 'blockNumber', device: 't2100', number: '07700 900123' }, 422],
  ['a block of an extension', { id: id(), service: 'blockNumber', device: 't2100', number: 't2150', reason: 'x' }, 409],
  ['lifting what is not blocked', { id: id(), service: 'unblockNumber', device: 't2100', number: 'constructor' }, 409],
  ['a note that is not there', { id: id(), service: 'dismissNote', device: 't2100', note: 'x' }, 409],
  ['what only the server says', { id: id(), service: 'setAgentState', device: 't2100', attended: false }, 422],
  ['what only a handset says', { id: id(), service: 'setHandset', device: 't2100', on: true }, 422],
  ['do not disturb as a word', { id: id(), service: 'setDoNotDisturb', device: 't2100', on: 'yes' }, 422],
]

test('bad requests are refused in a sentence and change nothing', async ({ request, stage }) => {
  await signedIn(request, stage.url, 'ines')
  await allIsQuiet(stage)
  const before = stage.cast.state.seq
  for (const [what, data, status] of badRequests) {
    const answer = await request.post(`${stage.url}/api/requests`, { data, headers: { 'content-type': 'application/json' } })
    expect.soft(answer.status(), what).toBe(status)
    const body = await answer.json()
    expect.soft(body.message, what).toMatch(/\w.*\w/)
    expect.soft(JSON.stringify(body).length, `${what}: nothing huge comes back`).toBeLessThan(2_000)
  }
  const broken = await request.post(`${stage.url}/api/requests`, { data: Buffer.from('{"id":'), headers: { 'content-type': 'application/json' } })
  expect(broken.status()).toBe(400)
  const form = await request.post(`${stage.url}/api/requests`, { form: { service: 'makeCall' } })
  expect(form.status()).toBe(415)
  const foreign = await request.post(`${stage.url}/api/requests`, {
    data: { id: id(), service: 'makeCall', device: 't2100', number: 't2150' },
    headers: { origin: 'http://elsewhere.example' },
  })
  expect(foreign.status()).toBe(403)
  const enormous = await request.post(`${stage.url}/api/requests`, { data: { id: 'x'.repeat(200_000) } })
  expect(enormous.status()).toBe(413)
  expect(stage.cast.state.seq).toBe(before)
})

test('bad messages, parkings and handsets are refused in a sentence', async ({ request, stage }) => {
  await signedIn(request, stage.url, 'ines')
  const message = { to: 't2150', caller: null, number: null, text: 'Hello', urgent: false, callBack: false }
  for (const [what, data] of Object.entries({
    'nothing': {}, 'nobody': { ...message, to: '9999' }, 'no words': { ...message, text: '' }, 'only control characters': { ...message, text: '\u0000\u0001' },
    'huge': { ...message, text: huge }, 'a strange field': { ...message, evil: 1 }, 'urgent as a word': { ...message, urgent: 'yes' },
  })) {
    const answer = await request.post(`${stage.url}/api/messages`, { data })
    expect.soft(answer.status(), what).toBe(422)
    expect.soft((await answer.json()).message, what).toMatch(/\w/)
  }
  expect((await request.post(`${stage.url}/api/messages/${'x'.repeat(3_000)}/read`, { data: {} })).status()).toBe(404)
  expect((await request.post(`${stage.url}/api/messages/%00/read`, { data: {} })).status()).toBe(404)
  for (const query of ['limit=0', 'limit=x', 'before=-1', 'before=never', 'limit=9999'])
    expect.soft((await request.get(`${stage.url}/api/parkings?${query}`)).status(), query).toBe(422)
  for (const data of [
    {},
    { id: id(), service: 'tick' },
    { id: id(), service: 'setHandset', device: 't2150', on: 'yes' },
    { id: id(), service: 'offerCall', trunk: 'east' },
  ]) {
    expect.soft((await request.post(`${stage.url}/api/handset`, { data })).status()).toBe(422)
  }
  expect((await request.post(`${stage.url}/api/handset`, { data: { id: id(), service: 'setHandset', device: '__proto__', on: true } })).status()).toBe(409)
})

test('the same request twice is carried out once', async ({ request, stage }) => {
  await signedIn(request, stage.url, 'ines')
  const data = { id: id(), service: 'makeCall', device: 't2100', number: 't2150' }
  const first = await (await request.post(`${stage.url}/api/requests`, { data })).json()
  const second = await (await request.post(`${stage.url}/api/requests`, { data })).json()
  expect(second).toEqual(first)
  await expect.poll(() => [...stage.cast.state.calls.keys()]).toEqual([first.call])
  await stage.cast.clearTheStage()
})

test('without a session, with a made-up one, or with the wrong role nothing is told and nothing done', async ({ request, stage }) => {
  const sessions: Record<string, string>[] = [{}, { cookie: 'estafette=Fe26.2*forged*a*b*c*d' }]
  for (const headers of sessions) {
    for (const path of ['/api/calls', '/api/calls?limit=5', '/api/parkings', '/api/messages']) {
      expect((await request.get(stage.url + path, { headers })).status(), path).toBe(401)
    }
    for (const path of ['/api/handset', '/api/messages', '/api/messages/x/read'])
      expect((await request.post(stage.url + path, { headers, data: {} })).status(), path).toBe(401)
    expect(
      (await request.post(`${stage.url}/api/requests`, { headers, data: { id: id(), service: 'makeCall', device: 't2100', number: 't2150' } })).status(),
    ).toBe(401)
    expect(
      (
        await request.get(`${stage.url}/api/feed`, {
          headers: {
            ...headers,
            'upgrade': 'websocket',
            'connection': 'Upgrade',
            'sec-websocket-key': 'dGhlIHNhbXBsZSBub25jZQ==',
            'sec-websocket-version': '13',
          },
        })
      ).status(),
    ).toBe(401)
  }
  await signedIn(request, stage.url, 'admin')
  const answer = await request.post(`${stage.url}/api/requests`, { data: { id: id(), service: 'makeCall', device: 't2100', number: 't2150' } })
  expect(answer.status()).toBe(403)
  expect((await answer.json()).message).toContain('No telephone belongs to your account')
})

test('bad queries of the log are refused, hostile ones find nothing', async ({ request, stage }) => {
  await signedIn(request, stage.url, 'ines')
  for (const query of [
    'kind=strange',
    'limit=0',
    'limit=9999',
    'limit=many',
    'before=yesterday',
    `text=${huge}`,
    'text=%00',
    'text=a&text=b',
    'before=999999999999999999~x',
  ]) {
    const answer = await request.get(`${stage.url}/api/calls?${query}`)
    expect.soft(answer.status(), query.slice(0, 30)).toBe(422)
  }
  for (const text of ['\' or 1=1 --', '%', '_', '\\', '<b>']) {
    const answer = await request.get(`${stage.url}/api/calls?text=${encodeURIComponent(text)}zz`)
    expect.soft((await answer.json()).rows, text).toEqual([])
  }
  expect((await request.get(`${stage.url}/api/nothing`)).status()).toBe(404)
})

test('sign-in refuses what is wrong without saying which half, and tires of trying', async ({ request, stage }) => {
  for (const data of [{}, { signIn: 5, password: [] }, { signIn: huge, password: 'x' }, { signIn: 'ines', password: huge }]) {
    expect((await request.post(`${stage.url}/api/session`, { data })).status()).toBe(422)
  }
  const wrong = await request.post(`${stage.url}/api/session`, { data: { signIn: 'ines', password: 'wrong' } })
  const unknown = await request.post(`${stage.url}/api/session`, { data: { signIn: 'nobody\u0000', password: 'wrong' } })
  expect(wrong.status()).toBe(401)
  expect((await unknown.json()).message).toBe((await wrong.json()).message)
  for (let i = 0; i < 10; i++) await request.post(`${stage.url}/api/session`, { data: { signIn: 'staff', password: 'wrong' } })
  expect((await request.post(`${stage.url}/api/session`, { data: { signIn: 'staff', password: demoPassword } })).status()).toBe(429)
})

test('a caller\'s name with markup and control characters is shown as plain text', async ({ console, stage }) => {
  await stage.cast.ring('<img src=x onerror="document.title=\'broken\'">\u202E\u0000 Evil')
  await expect(ribbon(console, 'Arriving', '<img src=x onerror=')).toBeVisible()
  await expect(console).toHaveTitle('(1) Estafette')
})

test('addresses that are none, ids of the program\'s own and unknown fields are refused in a sentence', async ({ request, stage }) => {
  await signedIn(request, stage.url, 'admin')
  const sentenceOf = async (answer: Awaited<ReturnType<typeof request.get>>) => {
    expect(answer.status()).toBe(422)
    return (await answer.json() as { message: string }).message
  }
  for (const address of ['http://127.0.0.1:4113.evil:4119/', 'http://[::1', 'https://a b/', 'http://host:99999/'])
    expect(await sentenceOf(await request.put(`${stage.url}/api/calendars/p2105`, { data: { address, content: null } })), address).toContain('https://')
  const rules = await (await request.get(`${stage.url}/api/house-rules`)).json() as object
  expect(await sentenceOf(await request.put(`${stage.url}/api/house-rules`, { data: { ...rules, secret: 1 } })))
    .toBe('What was sent holds fields that are not known: secret.')
  const company = await (await request.get(`${stage.url}/api/company`)).json() as { people: Record<string, object> }
  for (const id of ['constructor', 'valueOf']) {
    const changes = [{ part: 'people', id, value: { ...company.people.p2105, id } }]
    const answer = await request.patch(`${stage.url}/api/company`, { data: { seen: [{ part: 'people', id, value: null }], changes } })
    expect(await sentenceOf(answer)).toContain('is no id')
  }
  const herself = { ...company.people.p2105, deputies: ['p2105'] }
  expect(await sentenceOf(await request.patch(`${stage.url}/api/company`, {
    data: { seen: [{ part: 'people', id: 'p2105', value: company.people.p2105 }], changes: [{ part: 'people', id: 'p2105', value: herself }] },
  }))).toContain('stands in for themselves')
})
