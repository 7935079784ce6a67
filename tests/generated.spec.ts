import type { APIRequestContext } from '@playwright/test'
import { request as apiRequests } from '@playwright/test'
import fc from 'fast-check'
import { wellFormed } from '../core/calls/text'
import { demoPassword } from '../scripts/stack.mjs'
import { type ApiDocument as Document, Described, type JsonSchema as Schema } from './described'
import { alone, expect, programToken } from './stage'

/** Requests made from the API's own description, sensible and hostile: never a 5xx, and nothing changes without the right to it. */

/** The clock stands: whatever happens has been asked for. */
const test = alone({ exchangeArgs: ['--clock', '2031-05-12T09:00:00Z'], serverEnv: { NUXT_OCCUPANCY_TOKEN: programToken } })

/** Names that mean something here, and some that mean too much. */
const known = [
  't2100',
  't2101',
  't2150',
  'general',
  'duty:it',
  'p2105',
  'operators',
  'slot:1',
  'mailbox:t2105',
  '__proto__',
  'constructor',
  'east',
  'east#1',
  '+441632960000',
  '999',
  '07700 900123',
  'ines',
  '0',
]
const hostileTexts = [
  '',
  '\u0000',
  '\uD800',
  '%00',
  '\u{1F600}'.repeat(30),
  '\u202E',
  '../../etc',
  '\' or 1=1 --',
  '{}',
  'x'.repeat(400),
  '9'.repeat(30),
  '-1',
  'NaN',
  '1e999',
  'null',
]
const numbers = [0, 1, -1, 1.5, 2 ** 31, 2 ** 53, 8.64e15, 253_402_300_799_999, 1e300, -1e300]

function valueOf(schema: Schema, document: Document, calls: () => string[]): fc.Arbitrary<unknown> {
  if (schema.const !== undefined) return mostly(fc.constant(schema.const))
  if (schema.enum) return mostly(fc.constantFrom(...schema.enum))
  if (schema.oneOf)
    return fc.oneof(...schema.oneOf.map(one => valueOf(one.$ref ? document.components.schemas[one.$ref.split('/').at(-1)!]! : one, document, calls)))
  const type = Array.isArray(schema.type) ? schema.type[0] : schema.type
  switch (type) {
    case 'object': {
      const properties = Object.entries(schema.properties ?? {}).map(([name, property]) => [name, valueOf(property, document, calls)] as const)
      return fc.record(Object.fromEntries(properties), { requiredKeys: schema.required ?? [] })
    }
    case 'boolean':
      return mostly(fc.boolean())
    case 'integer':
    case 'number':
      return mostly(fc.oneof(fc.integer(), fc.constantFrom(...numbers)))
    default:
      return mostly(
        fc.oneof(
          fc.constantFrom(...known),
          fc.constantFrom(...hostileTexts),
          fc.string({ unit: 'binary', maxLength: 60 }),
          fc.nat().map(index => calls()[index % Math.max(1, calls().length)] ?? 'nowhere'),
        ),
      )
  }
}

/** Now and then something of another kind altogether. */
function mostly(wanted: fc.Arbitrary<unknown>): fc.Arbitrary<unknown> {
  return fc.oneof({ weight: 12, arbitrary: wanted }, { weight: 1, arbitrary: fc.constantFrom<unknown>(null, [], {}, 5, 'text', true, [[[]]]) })
}

/** A body as it is sent: texts of another kind than JSON as they are. */
function asText(body: unknown, type: string): string | undefined {
  return type !== 'application/json' && typeof body === 'string' ? wellFormed(body) : JSON.stringify(body)
}

const seed = process.env.GENERATED_SEED === undefined ? Date.now() & 0x7FFFFFFF : Number(process.env.GENERATED_SEED)
const total = 2_200

test('requests made from the description get no 5xx, and without the right change nothing', async ({ own: stage }) => {
  test.setTimeout(240_000)
  console.log(`generated requests, seed ${seed}`)
  const people: Record<string, APIRequestContext> = { nobody: await apiRequests.newContext({ baseURL: stage.url }) }
  for (const who of ['ines', 'staff', 'admin']) {
    const context = people[who] = await apiRequests.newContext({ baseURL: stage.url })
    expect((await context.post('/api/session', { data: { signIn: who, password: demoPassword } })).status()).toBe(200)
  }
  await stage.cast.ring('Generated Caller')
  const document = await (await people.nobody!.get('/api/openapi.json')).json() as Document
  // Signing in and out and new passwords would end the sessions that the others run on: they have tests of their own.
  const closing = [
    '/api/session',
    '/api/sessions/{id}',
    '/api/password',
    '/api/accounts/{signIn}',
    '/api/accounts/{signIn}/password',
    '/api/openapi.json',
    '/api/feed',
  ]
  const operations = Object.entries(document.paths).filter(([path]) => !closing.includes(path))
    .flatMap(([path, methods]) => Object.entries(methods).map(([method, operation]) => ({ path, method, operation })))
  expect(operations.length).toBeGreaterThan(8)
  const calls = () => [...stage.cast.state.calls.keys()]
  const wanted = fc.sample(
    fc.oneof(
      ...operations.map(({ path, method, operation }) =>
        fc.record({
          path: fc.constant(path),
          method: fc.constant(method),
          who: fc.constantFrom('nobody', 'ines', 'staff', 'admin'),
          body: operation.requestBody ? valueOf(Object.values(operation.requestBody.content)[0]!.schema, document, calls) : fc.constant(undefined),
          type: fc.constant(Object.keys(operation.requestBody?.content ?? {})[0] ?? 'application/json'),
          query: fc.record(
            Object.fromEntries(
              (operation.parameters ?? []).filter(parameter => parameter.in === 'query').map(({ name, schema }) => [name, valueOf(schema, document, calls)]),
            ),
            { requiredKeys: [] },
          ),
          segment: fc.oneof(fc.constantFrom(...known), fc.constantFrom('%00', '%', '%ff', 'a'.repeat(500))),
          raw: fc.nat({ max: 20 }),
        }),
      ),
    ),
    { numRuns: total, seed },
  )

  const described = new Described(document)
  const failures: string[] = []
  for (const { path, method, who, body, type, query, segment, raw } of wanted) {
    const before = stage.cast.state.seq
    const params = Object.entries(query as Record<string, unknown>)
      .map(([name, value]) => `${name}=${encodeURIComponent(typeof value === 'string' ? wellFormed(value) : JSON.stringify(value))}`)
      .join('&')
    const address = `${path.replace(/\{\w+\}/g, encodeURI(segment))}?${params}`
    const data = raw === 0 ? '{"broken' : raw === 1 ? `${'['.repeat(20_000)}${']'.repeat(20_000)}` : asText(body, type)
    const answer = await people[who]!.fetch(address, {
      method,
      ...(data !== undefined && method !== 'get' && {
        data, headers: { 'content-type': type, ...(who !== 'nobody' && { authorization: `Bearer ${programToken}` }) },
      }),
    })
    if (answer.status() >= 500)
      failures.push(`${who} ${method} ${address.slice(0, 120)} ${data?.slice(0, 300)}: ${answer.status()} ${(await answer.text()).slice(0, 200)}`)
    const complaint = await described.complaint(method, path, answer)
    if (complaint && answer.status() !== 404 && answer.status() !== 405) failures.push(`${who} ${data?.slice(0, 200)}: ${complaint}`)
    if (answer.status() >= 400 && path !== '/api/handset') expect(stage.cast.state.seq, `${who} ${method} ${address}`).toBe(before)
    const forAll = ['/api/health', '/api/ready', '/api/openapi.json', '/api/identity']
    if (who === 'nobody' && !forAll.includes(path)) expect([401, 404, 405, 413, 415, 422]).toContain(answer.status())
  }
  expect(failures).toEqual([])
  await stage.cast.clearTheStage()
})

test('an id that was used for another request is refused, and so is one that is none', async ({ own: stage }) => {
  const ines = await apiRequests.newContext({ baseURL: stage.url })
  await ines.post('/api/session', { data: { signIn: 'ines', password: demoPassword } })
  const id = crypto.randomUUID()
  expect((await ines.post('/api/requests', { data: { id, service: 'setStatus', device: 't2100', reason: 'break', until: null } })).status()).toBe(200)
  const again = await ines.post('/api/requests', { data: { id, service: 'setStatus', device: 't2100', reason: null, until: null } })
  expect(again.status()).toBe(409)
  expect((await again.json()).message).toContain('used for another request')
  expect(stage.cast.state.devices.get('t2100')!.status.reason).toBe('break')
  for (const wrong of ['x'.repeat(200), 'short', 'with space in it', '\u0000'.repeat(10)]) {
    expect((await ines.post('/api/requests', { data: { id: wrong, service: 'setStatus', device: 't2100', reason: null, until: null } })).status()).toBe(422)
  }
  await ines.post('/api/requests', { data: { id: crypto.randomUUID(), service: 'setStatus', device: 't2100', reason: null, until: null } })
})
