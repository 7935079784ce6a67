import { readdirSync } from 'node:fs'
import { request as apiRequests, type APIRequestContext } from '@playwright/test'
import { createConfig, lintFromString } from '@redocly/openapi-core'
import { Validator } from '@seriousme/openapi-schema-validator'
import type { Company } from '../core/company/company'
import { demoPassword } from '../scripts/stack.mjs'
import { type ApiDocument, Described } from './described'
import { allIsQuiet, expect, programToken, signedIn, test } from './stage'

/** The API's description: valid by the standard, complete, and true of what the API answers. */

test('the API describes itself: valid OpenAPI 3.1, every route in it', async ({ request, stage }) => {
  const document = await (await request.get(`${stage.url}/api/openapi.json`)).json() as ApiDocument
  const { valid, errors } = await new Validator().validate(structuredClone(document) as never)
  expect(errors, 'nothing to say against it').toBeUndefined()
  expect(valid).toBe(true)
  const found = await lintFromString({ source: JSON.stringify(document), config: await createConfig({ extends: ['recommended'] }) })
  expect(found.filter(({ severity }) => severity === 'error').map(({ ruleId, location }) => `${ruleId} ${location[0]?.pointer}`)).toEqual([])
  const operations = Object.values(document.paths).flatMap(methods => Object.values(methods)) as { operationId?: string, security?: unknown }[]
  expect(new Set(operations.map(({ operationId }) => operationId)).size).toBe(operations.length)
  expect(operations.filter(({ operationId, security }) => !operationId || !Array.isArray(security))).toEqual([])
  const routes = readdirSync('server/api', { recursive: true, encoding: 'utf8' }).filter(file => file.endsWith('.ts') && !file.includes('[...]'))
  expect(Object.values(document.paths).flatMap(methods => Object.keys(methods))).toHaveLength(routes.length)
  expect(document.paths['/api/messages/{id}/read']).toHaveProperty('post')
  expect(document.paths['/api/accounts/{signIn}']!.patch!.responses).toHaveProperty('409')
  expect(document.components.schemas.singleStepTransferCall!.required).toEqual(expect.arrayContaining(['id', 'service', 'device', 'call', 'to']))
})

test('every good answer, and the bad ones, are as described', async ({ stage }) => {
  const [ines, admin, nobody] = [await signedIn(stage.url, 'ines'), await signedIn(stage.url, 'admin'), await apiRequests.newContext({ baseURL: stage.url })]
  await allIsQuiet(stage)
  const described = new Described(await (await ines.get('/api/openapi.json')).json() as ApiDocument)
  const heard = new Map<string, Set<number>>()
  async function ask(
    who: APIRequestContext,
    method: string,
    path: string,
    status: number,
    { data, segment = '', query = '' }: { data?: object | string, segment?: string, query?: string } = {},
  ): Promise<never> {
    const address = `${path.replace(/\{\w+\}/, encodeURIComponent(segment))}${query}`
    const answer = await who.fetch(address, { method, ...(method !== 'get' && { data: data ?? {} }) })
    expect(answer.status(), `${method} ${address}: ${(await answer.text()).slice(0, 300)}`).toBe(status)
    expect(await described.complaint(method, path, answer)).toBeNull()
    heard.set(`${method} ${path}`, (heard.get(`${method} ${path}`) ?? new Set()).add(status))
    return (answer.headers()['content-type']?.includes('json') ? await answer.json() : null) as never
  }
  const service = (fields: object) => ({ data: { id: crypto.randomUUID(), device: 't2100', ...fields } })

  stage.cast.present(['t2100'])
  await expect.poll(() => stage.cast.state.agents.get('t2100')?.attended).toBe(true)
  const call = await stage.cast.ring('Olive Described', { from: '+447700900321' })
  await ask(ines, 'post', '/api/requests', 200, service({ service: 'answerCall', call }))
  await ask(ines, 'post', '/api/requests', 200, service({ service: 'parkCall', call, slot: null, for: 't2105' }))
  await ask(ines, 'post', '/api/requests', 409, service({ service: 'answerCall', call: 'nowhere' }))
  await ask(ines, 'post', '/api/requests', 422, service({ service: 'sing' }))
  await ask(ines, 'post', '/api/requests', 403, { data: { id: crypto.randomUUID(), service: 'answerCall', device: 't2105', call } })
  await ask(nobody, 'post', '/api/requests', 401)
  await ask(ines, 'get', '/api/requests/{id}', 200, { segment: crypto.randomUUID() })
  await ask(ines, 'get', '/api/requests/{id}', 422, { segment: 'a b' })
  await ask(nobody, 'post', '/api/sound', 401, { data: { device: 't2100', sdp: 'v=0\r\n' } })
  await ask(ines, 'post', '/api/sound', 409, { data: { device: 't2100', sdp: 'v=0\r\n' } })
  await ask(ines, 'post', '/api/sound', 422, { data: { device: 't2100', sdp: 'nonsense' } })
  await ask(ines, 'post', '/api/handset', 200, service({ service: 'setStatus', reason: null, until: null }))
  await stage.cast.hangUp(call)
  await expect
    .poll(
      async () =>
        ((await ask(ines, 'get', '/api/calls', 200, { query: '?text=Described' })) as { rows: { endedAt: number | null }[] }).rows.filter(
          ({ endedAt }) => endedAt !== null,
        ).length,
    )
    .toBeGreaterThan(0)
  await ask(ines, 'get', '/api/calls', 422, { query: '?kind=odd' })
  await ask(ines, 'post', '/api/calls/{id}/dealt-with', 200, { segment: call, data: { calledBack: false } })
  const { rows: dealt } = await ask(ines, 'get', '/api/calls', 200, { query: `?call=${call}` }) as { rows: { dealtWith: object }[] }
  expect(dealt[0]!.dealtWith).toMatchObject({ by: 'Ines Quillfeather', calledBack: false })
  await ask(ines, 'post', '/api/calls/{id}/dealt-with', 404, { segment: 'nowhere', data: { calledBack: true } })
  await ask(ines, 'post', '/api/calls/{id}/dealt-with', 422, { segment: call, data: { calledBack: 'perhaps' } })
  await ask(ines, 'patch', '/api/preferences', 200, { data: { density: 'names', track: 300 } })
  await ask(ines, 'patch', '/api/preferences', 200, { data: { track: null } })
  for (const data of [{ density: 'huge' }, { track: -1 }, { panel: 1e9 }, { panelShown: 'no' }, { wallpaper: 'blue' }])
    await ask(ines, 'patch', '/api/preferences', 422, { data })
  await ask(nobody, 'patch', '/api/preferences', 401)
  const kept = await ask(ines, 'get', '/api/preferences', 200) as object
  expect(kept).toMatchObject({ density: 'names', track: null, panelShown: true })
  const keys = [{ kind: 'person', of: 'p2105', label: null }]
  const page = await ask(ines, 'post', '/api/key-pages', 200, { data: { name: 'Described', shared: false, keys } }) as { id: string, version: number }
  await ask(ines, 'post', '/api/key-pages', 422, { data: { name: '', shared: false } })
  await ask(ines, 'get', '/api/key-pages', 200)
  const changed = { version: page.version, name: 'Described again', keys }
  await ask(ines, 'put', '/api/key-pages/{id}', 200, { segment: page.id, data: changed })
  await ask(ines, 'put', '/api/key-pages/{id}', 409, { segment: page.id, data: changed })
  await ask(ines, 'put', '/api/key-pages/{id}', 422, { segment: page.id, data: { ...changed, keys: [{ kind: 'person', of: 'nobody', label: null }] } })
  await ask(ines, 'get', '/api/key-pages/{id}/csv', 200, { segment: page.id })
  await ask(ines, 'put', '/api/key-pages/{id}/csv', 200, { segment: page.id, data: { version: 2, csv: 'kind,of\nperson,2106' } })
  await ask(ines, 'put', '/api/key-pages/{id}/csv', 422, { segment: page.id, data: { version: 3, csv: 'what' } })
  await ask(admin, 'delete', '/api/key-pages/{id}', 404, { segment: page.id, query: '?version=3' })
  await ask(ines, 'delete', '/api/key-pages/{id}', 422, { segment: page.id, query: '?version=x' })
  await ask(ines, 'delete', '/api/key-pages/{id}', 200, { segment: page.id, query: '?version=3' })
  const somebody = {
    kind: 'individual', name: 'Described', company: null, numbers: [], addresses: [], category: '', private: false, language: '', note: '', readFirst: false,
    mark: 'none',
  }
  const contact = await ask(ines, 'post', '/api/contacts', 200, { data: somebody }) as { id: string, version: number }
  await ask(ines, 'post', '/api/contacts', 422, { data: { ...somebody, numbers: [{ number: 'none', kind: 'work' }] } })
  await ask(ines, 'get', '/api/contacts', 200, { query: '?since=0' })
  await ask(ines, 'get', '/api/contacts', 422, { query: '?since=ever' })
  await ask(ines, 'put', '/api/contacts/{id}', 200, { segment: contact.id, data: { ...somebody, note: 'Changed.', version: 1 } })
  await ask(ines, 'put', '/api/contacts/{id}', 409, { segment: contact.id, data: { ...somebody, version: 1 } })
  await ask(ines, 'put', '/api/contacts/{id}', 404, { segment: 'nobody', data: { ...somebody, version: 1 } })
  const twin = await ask(ines, 'post', '/api/contacts', 200, { data: { ...somebody, numbers: [{ number: '020 7946 0999', kind: 'work' }] } }) as { id: string }
  await ask(ines, 'post', '/api/contacts/{id}/merge', 422, { segment: contact.id, data: { version: 2, other: contact.id } })
  await ask(ines, 'post', '/api/contacts/{id}/merge', 200, { segment: contact.id, data: { version: 2, other: twin.id } })
  await ask(ines, 'post', '/api/contacts/{id}/merge', 404, { segment: twin.id, data: { version: 2, other: contact.id } })
  await ask(ines, 'get', '/api/callers', 200, { query: '?number=%2B442079460999&line=general' })
  await ask(nobody, 'get', '/api/callers', 401)
  await ask(ines, 'delete', '/api/contacts/{id}', 409, { segment: contact.id, query: '?version=1' })
  await ask(ines, 'delete', '/api/contacts/{id}', 200, { segment: contact.id, query: '?version=3' })
  const calendar = { address: null, content: 'BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART:20200101T090000Z\r\nDURATION:PT1H\r\nEND:VEVENT\r\nEND:VCALENDAR' }
  await ask(admin, 'get', '/api/calendars/{of}', 404, { segment: 'duty:it' })
  await ask(admin, 'put', '/api/calendars/{of}', 200, { segment: 'duty:it', data: calendar })
  await ask(admin, 'put', '/api/calendars/{of}', 404, { segment: 'nobody', data: calendar })
  await ask(admin, 'put', '/api/calendars/{of}', 422, { segment: 'duty:it', data: { ...calendar, content: 'nothing' } })
  await ask(ines, 'put', '/api/calendars/{of}', 403, { segment: 'duty:it', data: calendar })
  await ask(admin, 'get', '/api/calendars/{of}', 200, { segment: 'duty:it' })
  await ask(admin, 'delete', '/api/calendars/{of}', 200, { segment: 'duty:it' })
  await ask(ines, 'put', '/api/occupants', 200, { data: { csv: 'place,occupant\n851,MV Described\nnowhere,x' } })
  await ask(ines, 'put', '/api/occupants', 422, { data: { csv: 'place\n851' } })
  await ask(nobody, 'post', '/api/occupants/feed', 401)
  const program = (token: string) =>
    apiRequests.newContext({ baseURL: stage.url, extraHTTPHeaders: { 'authorization': `Bearer ${token}`, 'content-type': 'text/csv' } })
  await ask(await program('guessed'), 'post', '/api/occupants/feed', 401, { data: 'place,occupant\n851,MV Described' })
  await ask(await program(programToken), 'post', '/api/occupants/feed', 200, { data: 'place,occupant\n851,MV Described' })
  await ask(await program(programToken), 'post', '/api/occupants/feed', 422, { data: '{"place": 851}' })
  const row = {
    uid: null, kind: 'individual', name: 'Described row', company: null, category: '', numbers: [], addresses: [], language: '', note: '', card: [],
  }
  await ask(ines, 'post', '/api/contacts/imports/check', 200, { data: { private: true, rows: [row] } })
  await ask(ines, 'post', '/api/contacts/imports/check', 422, { data: { private: true, rows: [] } })
  const { id: brought } = await ask(ines, 'post', '/api/contacts/imports', 200, { data: { file: 'described.csv', private: true } }) as { id: string }
  await ask(ines, 'put', '/api/contacts/imports/{id}/rows', 200, { segment: brought, data: { from: 0, rows: [row] } })
  await ask(admin, 'put', '/api/contacts/imports/{id}/rows', 404, { segment: brought, data: { from: 0, rows: [row] } })
  await ask(ines, 'get', '/api/contacts/imports', 200)
  await ask(ines, 'post', '/api/contacts/imports/{id}/undo', 200, { segment: brought, data: {} })
  await ask(ines, 'post', '/api/contacts/imports/{id}/undo', 409, { segment: brought, data: {} })
  await ask(ines, 'put', '/api/contacts/imports/{id}/rows', 409, { segment: brought, data: { from: 1, rows: [row] } })
  await ask(ines, 'get', '/api/contacts/export', 200, { query: '?format=csv' })
  await ask(ines, 'get', '/api/contacts/export', 422, { query: '?format=pdf' })
  const { company: whole } = await ask(admin, 'get', '/api/company/file', 200) as { company: Company }
  const site = { part: 'sites', id: 'described', value: { id: 'described', name: 'Described', position: 90 } }
  const asked = { seen: [{ ...site, value: null }], changes: [site] }
  const { edit } = await ask(admin, 'patch', '/api/company', 200, { data: asked }) as { edit: string }
  await ask(admin, 'patch', '/api/company', 409, { data: asked })
  await ask(admin, 'patch', '/api/company', 422, { data: { seen: [], changes: [] } })
  await ask(ines, 'patch', '/api/company', 403, { data: asked })
  await ask(admin, 'get', '/api/company/edits', 200)
  await ask(admin, 'get', '/api/company/proposals', 200, { query: '?country=GB&region=SCT' })
  await ask(admin, 'get', '/api/company/proposals', 422, { query: '?country=Britain' })
  await ask(ines, 'get', '/api/company/proposals', 403, { query: '?country=GB' })
  await ask(ines, 'get', '/api/history', 200)
  await ask(admin, 'post', '/api/company/edits/{id}/undo', 200, { segment: edit, data: {} })
  await ask(admin, 'post', '/api/company/edits/{id}/undo', 409, { segment: edit, data: {} })
  await ask(admin, 'post', '/api/company/edits/{id}/undo', 404, { segment: 'nothing', data: {} })
  const file = { format: 'estafette-company', formatVersion: 1, company: whole }
  await ask(admin, 'post', '/api/company/file', 200, { data: { carryOut: false, file } })
  await ask(admin, 'post', '/api/company/file', 422, { data: { carryOut: false, file: { ...file, company: 7 } } })
  await ask(ines, 'get', '/api/company/schema', 200)
  await ask(ines, 'get', '/api/customers', 200, { query: '?number=%2B442079460100' })
  await ask(ines, 'get', '/api/customers', 422)
  await ask(admin, 'get', '/api/connections', 200)
  await ask(admin, 'get', '/api/charges', 200, { query: '?from=2026-01-01&to=2026-01-31' })
  await ask(admin, 'get', '/api/charges', 422, { query: '?from=2026-01-01&to=yesterday' })
  await ask(ines, 'get', '/api/charges', 403, { query: '?from=2026-01-01&to=2026-01-31' })
  await ask(admin, 'get', '/api/figures', 200, { query: '?from=2027-01-01&to=2031-12-31' })
  await ask(admin, 'get', '/api/figures', 422, { query: '?from=2026-01-01&to=yesterday' })
  await ask(ines, 'get', '/api/figures', 403, { query: '?from=2026-01-01&to=2026-01-31' })
  await ask(admin, 'get', '/api/figures/export', 200, { query: '?from=2026-01-01&to=2026-01-31&table=days' })
  await ask(admin, 'get', '/api/figures/export', 422, { query: '?from=2026-01-01&to=2026-01-31&table=everything' })
  await ask(admin, 'get', '/api/figures/ahead', 200, { query: '?queue=operators' })
  await ask(admin, 'get', '/api/figures/ahead', 404, { query: '?queue=nothing' })
  await ask(ines, 'get', '/api/figures/today', 200)
  await ask(admin, 'get', '/api/charges/export', 200, { query: '?from=2026-01-01&to=2026-01-31' })
  await ask(admin, 'put', '/api/charges/{id}', 404, { segment: 'nothing', data: { code: '', seen: '' } })
  await ask(admin, 'post', '/api/connections/try', 200, { data: { kind: 'exchange', id: '' } })
  await ask(admin, 'post', '/api/connections/try', 404, { data: { kind: 'addressBook', id: 'nothing' } })
  await ask(admin, 'post', '/api/connections/try', 404, { data: { kind: 'calendar', id: '\0\ud800' } })
  await ask(ines, 'post', '/api/connections/try', 403, { data: { kind: 'exchange', id: '' } })
  await ask(admin, 'post', '/api/address-books', 422, { data: { name: 'Inside', address: 'http://127.0.0.1:9/', user: '', password: '' } })
  await stage.sql(`insert into address_book (id, name, address, user_name, secret, next_at) values ('described', 'Described', 'http://127.0.0.1:9/', '', '', now() + interval '1 day')`)
  await ask(admin, 'delete', '/api/address-books/{id}', 200, { segment: 'described' })
  await ask(admin, 'delete', '/api/address-books/{id}', 404, { segment: 'described' })
  await ask(ines, 'get', '/api/whereabouts', 200)
  await ask(ines, 'get', '/api/messages/waiting', 200)
  await ask(ines, 'put', '/api/notes/{id}', 200, { segment: 'p2105', data: { text: 'Described', remindOn: '2026-11-30' } })
  await ask(ines, 'put', '/api/notes/{id}', 422, { segment: 'p2105', data: { text: '', remindOn: '2026-02-30' } })
  await ask(ines, 'put', '/api/notes/{id}', 404, { segment: 'nobody', data: { text: '', remindOn: null } })
  await ask(ines, 'get', '/api/notes', 200)
  await ask(ines, 'post', '/api/shift/notes', 200, { data: { text: 'Described' } })
  await ask(ines, 'post', '/api/shift/notes', 422, { data: { text: ' \u0000 ' } })
  await ask(ines, 'post', '/api/shift/hand-overs', 200, { data: { words: '' } })
  await ask(ines, 'post', '/api/shift/hand-overs', 422, { data: { words: 'x'.repeat(601) } })
  const shift = await ask(ines, 'get', '/api/shift', 200) as { notes: { id: string }[], handOvers: { id: string }[] }
  for (const done of [true, false, true]) await ask(ines, 'post', '/api/shift/notes/{id}/done', 200, { segment: shift.notes[0]!.id, data: { done } })
  await ask(ines, 'post', '/api/shift/notes/{id}/done', 422, { segment: 'nothing', data: { done: true } })
  await ask(ines, 'post', '/api/shift/notes/{id}/done', 404, { segment: shift.handOvers[0]!.id, data: { done: true } })
  await ask(ines, 'post', '/api/shift/hand-overs/{id}/signed', 409, { segment: shift.handOvers[0]!.id, data: {} })
  await ask(admin, 'post', '/api/shift/hand-overs/{id}/signed', 200, { segment: shift.handOvers[0]!.id, data: {} })
  await ask(admin, 'post', '/api/shift/hand-overs/{id}/signed', 409, { segment: shift.handOvers[0]!.id, data: {} })
  await ask(ines, 'post', '/api/shift/hand-overs/{id}/signed', 404, { segment: shift.notes[0]!.id, data: {} })
  await ask(ines, 'put', '/api/notes/{id}', 200, { segment: 'p2105', data: { text: '', remindOn: null } })
  await ask(ines, 'put', '/api/occupants', 200, { data: { csv: 'place,occupant\n' } })
  await stage.sql('insert into recording (id, call, at) values (\'recording:described-1:5\', \'described-1\', now())')
  const recording = { segment: 'recording:described-1:5' }
  const [music, wav] = [{ segment: 'music' }, 'UklGRiYAAABXQVZFZm10IBAAAAABAAEAQB8AAIA+AAACABAAZGF0YQIAAAAAAA==']
  await ask(ines, 'put', '/api/own-sounds/{place}', 403, { ...music, data: { wav, name: '' } })
  await ask(admin, 'put', '/api/own-sounds/{place}', 422, { ...music, data: { wav: 'no sound', name: '' } })
  await ask(admin, 'put', '/api/own-sounds/{place}', 200, { ...music, data: { wav, name: 'waltz.wav' } })
  await ask(admin, 'get', '/api/own-sounds', 200)
  await ask(ines, 'get', '/api/own-sounds', 200)
  await ask(ines, 'get', '/api/own-sounds/{place}/sound', 403, music)
  await ask(ines, 'delete', '/api/own-sounds/{place}', 403, music)
  await ask(admin, 'delete', '/api/own-sounds/{place}', 200, music)
  await ask(admin, 'get', '/api/own-sounds/{place}/sound', 404, music)
  await ask(admin, 'delete', '/api/own-sounds/{place}', 404, music)
  await ask(ines, 'get', '/api/spoken-names', 200)
  await ask(ines, 'post', '/api/spoken-names', 409, { data: { wav } })
  await ask(ines, 'post', '/api/spoken-names', 422, { data: { wav: 'no sound' } })
  await ask(admin, 'get', '/api/recordings', 200, { query: '?limit=5' })
  await ask(admin, 'get', '/api/recordings', 422, { query: '?before=then' })
  await ask(ines, 'get', '/api/recordings', 403)
  await ask(admin, 'put', '/api/recordings/{id}', 200, { ...recording, data: { note: 'Heard', before: '' } })
  await ask(admin, 'put', '/api/recordings/{id}', 409, { ...recording, data: { note: 'Other', before: '' } })
  await ask(admin, 'put', '/api/recordings/{id}', 422, { ...recording, data: { note: 5, before: '' } })
  await ask(admin, 'get', '/api/recordings/{id}/sound', 404, recording)
  await ask(ines, 'delete', '/api/recordings/{id}', 403, recording)
  await ask(admin, 'delete', '/api/recordings/{id}', 200, recording)
  await ask(admin, 'delete', '/api/recordings/{id}', 404, recording)
  const { rows } = await ask(ines, 'get', '/api/parkings', 200) as { rows: object[] }
  expect(rows.length).toBeGreaterThan(0)

  await ask(ines, 'post', '/api/messages', 200, {
    data: { to: 't2100', caller: null, number: null, text: 'The lamps are here.', urgent: false, callBack: true },
  })
  const { received } = await ask(ines, 'get', '/api/messages', 200) as { received: { id: string }[] }
  await ask(ines, 'post', '/api/messages/{id}/read', 200, { segment: received[0]!.id })
  await ask(ines, 'post', '/api/messages/{id}/read', 404, { segment: crypto.randomUUID() })
  await ask(ines, 'get', '/api/messages/{id}/sound', 404, { segment: received[0]!.id })
  await ask(ines, 'post', '/api/messages/{id}/pass', 200, { segment: received[0]!.id, data: { to: 't2105', word: 'Yours?' } })
  await ask(ines, 'post', '/api/messages/{id}/pass', 422, { segment: received[0]!.id, data: { to: 't2100', word: '' } })
  await ask(ines, 'post', '/api/messages/{id}/pass', 422, { segment: received[0]!.id, data: { to: 'constructor', word: '' } })
  await ask(ines, 'post', '/api/messages/{id}/pass', 404, { segment: crypto.randomUUID(), data: { to: 't2105', word: '' } })
  await ask(ines, 'post', '/api/messages/{id}/dealt', 200, { segment: received[0]!.id, data: { dealt: true } })
  await ask(ines, 'post', '/api/messages/{id}/dealt', 422, { segment: received[0]!.id, data: { dealt: 'yes' } })
  await ask(ines, 'post', '/api/messages/{id}/dealt', 404, { segment: crypto.randomUUID(), data: { dealt: true } })
  await ask(ines, 'delete', '/api/messages/{id}', 200, { segment: received[0]!.id })
  await ask(ines, 'post', '/api/messages/{id}/restore', 200, { segment: received[0]!.id })
  await ask(ines, 'delete', '/api/messages/{id}', 404, { segment: crypto.randomUUID() })
  await ask(ines, 'post', '/api/messages/{id}/restore', 404, { segment: crypto.randomUUID() })

  const company = await ask(ines, 'get', '/api/company', 200) as { people: object }
  expect(Object.keys(company.people).length).toBeGreaterThan(100)
  for (const path of ['/api/session', '/api/sessions', '/api/health', '/api/ready', '/api/openapi.json']) await ask(ines, 'get', path, 200)
  await ask(nobody, 'get', '/api/session', 204)
  await ask(admin, 'get', '/api/upkeep', 200)
  await ask(ines, 'get', '/api/upkeep', 403)
  await ask(admin, 'get', '/api/accounts', 200)
  const account = { signIn: 'described', role: 'staff', person: null, name: 'Described' }
  await ask(admin, 'post', '/api/accounts', 200, { data: account })
  await ask(admin, 'post', '/api/accounts', 409, { data: account })
  await ask(admin, 'post', '/api/accounts', 422, { data: { ...account, signIn: 'described twice', person: 'nobody' } })
  const rules = await ask(admin, 'get', '/api/house-rules', 200) as { version: number }
  await ask(admin, 'put', '/api/house-rules', 200, { data: rules })
  await ask(admin, 'put', '/api/house-rules', 409, { data: rules })
  await ask(admin, 'put', '/api/house-rules', 422, { data: { ...rules, guesses: 1 } })
  await ask(ines, 'put', '/api/house-rules', 403, { data: rules })
  await ask(admin, 'get', '/api/accounts/changes', 200)
  await ask(ines, 'get', '/api/accounts/changes', 403)
  await ask(admin, 'patch', '/api/accounts/{signIn}', 200, { segment: 'staff', data: { role: 'staff' } })
  await ask(admin, 'patch', '/api/accounts/{signIn}', 404, { segment: 'nobody', data: { role: 'staff' } })
  await ask(ines, 'post', '/api/password', 422, { data: { current: demoPassword, wanted: 'short' } })
  await ask(nobody, 'post', '/api/session', 401, { data: { signIn: 'ines', password: 'not this one' } })
  const directory = {
    address: 'ldap://127.0.0.1', startTls: false, user: '', password: '', base: '', filter: '(uid=*)', columns: [{ attribute: 'sn', meaning: 'last' }],
    numbered: true,
  }
  await ask(admin, 'get', '/api/house-directory', 200)
  await ask(ines, 'get', '/api/house-directory', 403)
  for (const [method, path] of [['post', '/api/house-directory/look'], ['put', '/api/house-directory']] as const)
    await ask(admin, method, path, 422, { data: directory })
  await ask(admin, 'delete', '/api/house-directory', 200)
  await ask(admin, 'get', '/api/telephones', 200)
  await ask(ines, 'get', '/api/telephones', 403)
  await ask(admin, 'post', '/api/telephones/{device}/account', 409, { segment: 't2150', data: {} })
  await ask(admin, 'delete', '/api/telephones/{device}/account', 404, { segment: 't2150' })
  const provider = {
    name: 'House', issuer: 'https://127.0.0.1', clientId: 'x', secret: 'y', scopes: 'openid', address: 'https://x', signIn: 'sub', groups: 'groups', roles: [],
    otherwise: null, makes: false,
  }
  await ask(nobody, 'get', '/api/identity', 200)
  await ask(admin, 'get', '/api/identity/settings', 200)
  await ask(admin, 'put', '/api/identity/settings', 422, { data: provider })
  await ask(ines, 'put', '/api/identity/settings', 403, { data: provider })
  await ask(admin, 'delete', '/api/identity/settings', 200)
  await ask(nobody, 'post', '/api/identity/begin', 404)
  await ask(nobody, 'post', '/api/identity/finish', 404, { data: { query: '' } })
  const second = await signedIn(stage.url, 'tomas')
  const [own] = await ask(second, 'get', '/api/sessions', 200) as { id: string }[]
  await ask(second, 'delete', '/api/sessions/{id}', 404, { segment: 'nothing' })
  await ask(second, 'delete', '/api/sessions/{id}', 200, { segment: own!.id })
  await ask(second, 'delete', '/api/session', 200)

  stage.cast.present([])

  // The rest is tried where it changes nothing for others: a new password in `doors.spec.ts`, an address book in `connections.spec.ts`, a charge in
  // `charges.spec.ts`, the house's directory and its identity provider and telephones in specs of their own, sound in `talking.spec.ts`, the feed
  // everywhere.
  const untried = Object.entries(described.document.paths)
    .flatMap(([path, methods]) => Object.keys(methods).map(method => `${method} ${path}`))
    .filter(name => !heard.get(name)?.has(200))
  expect(untried.sort()).toEqual([
    'delete /api/telephones/{device}/account',
    'get /api/feed', 'get /api/messages/{id}/sound', 'get /api/own-sounds/{place}/sound', 'get /api/recordings/{id}/sound',
    'post /api/accounts/{signIn}/password', 'post /api/address-books', 'post /api/house-directory/look',
    'post /api/identity/begin', 'post /api/identity/ended', 'post /api/identity/finish', 'post /api/password', 'post /api/session', 'post /api/sound',
    'post /api/spoken-names', 'post /api/telephones/{device}/account',
    'put /api/charges/{id}', 'put /api/house-directory', 'put /api/identity/settings',
  ])
})
