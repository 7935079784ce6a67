import { readFileSync } from 'node:fs'
import { createServer, type RequestListener, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { Validator } from '@seriousme/openapi-schema-validator'
import { afterEach, describe, expect, it } from 'vitest'
import { linkOf, Customers } from './customers'

let server: Server
async function system(answer: RequestListener, now?: () => number): Promise<Customers> {
  server = createServer(answer)
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  return new Customers({ name: 'Orders', address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/customers`, token: 'secret' }, now)
}
afterEach(() => {
  server.closeAllConnections()
  server.close()
})
const json = (value: unknown): RequestListener => (_request, response) => {
  response.setHeader('content-type', 'application/json').end(JSON.stringify(value))
}

describe('the customer system', () => {
  it('is asked with number and token, and what it says is text', async () => {
    let asked = ''
    const customers = await system((request, response) => {
      asked = `${request.url} ${request.headers.authorization}`
      json({ customer: {
        name: '<img src=x onerror=alert(1)>', lines: [{ label: 'Order\u0000 7', text: 'late\nagain', more: 1 }], link: 'javascript:alert(1)', unknown: {},
      } })(request, response)
    })
    expect(await customers.look('+442079460100')).toEqual({
      source: 'Orders', problem: null,
      customer: { name: '<img src=x onerror=alert(1)>', reference: '', lines: [{ label: 'Order 7', text: 'late again' }], link: null },
    })
    expect(asked).toBe('/customers?number=%2B442079460100 Bearer secret')
  })

  it('that nobody knows there says so; a link that may be opened stays', async () => {
    expect((await (await system(json({ customer: null }))).look('+44')).customer).toBeNull()
    server.close()
    expect((await (await system(json({ customer: { name: 'N', link: 'https://orders.example/7' } }))).look('+44')).customer?.link).toBe('https://orders.example/7')
  })

  for (const [fault, answer, words] of [
    ['silent', () => {}, 'did not answer in time'], ['failing', (_request, response) => response.writeHead(500).end(), 'status 500'],
    ['talking nonsense', (_request, response) => response.end('<html>'), 'can\'t be understood'],
    ['of another mind', json({ customers: [] }), 'can\'t be understood'],
    ['endless', (_request, response) => response.end('x'.repeat(200_000)), 'more than can be read'],
    ['sending elsewhere', (_request, response) => response.writeHead(302, { location: 'http://127.0.0.1:1/' }).end(), 'can\'t be reached'],
  ] satisfies [string, RequestListener, string][]) {
    it(`that is ${fault} is said in a sentence, in time, and left in peace after three times`, async () => {
      let now = 1_000
      let asked = 0
      const customers = await system((request, response) => {
        asked++
        answer(request, response)
      }, () => now)
      for (let time = 0; time < 3; time++) expect((await customers.look('+44')).problem).toContain(words)
      expect(await customers.look('+44')).toMatchObject({ customer: null, problem: expect.stringContaining('not asked for a moment') as string })
      expect([asked, customers.isWell]).toEqual([3, false])
      now += 31_000
      await customers.look('+44')
      expect(asked).toBe(4)
    })
  }

  it('gives links that lead where they seem to', () => {
    for (const link of ['javascript:alert(1)', 'https://bank.example@evil.example/', 'https://a:b@crm.example/1', 'https://crm.example/\u202Egpj.exe', 'nonsense'])
      expect(linkOf(link), link).toBeNull()
    expect(linkOf('https://crm.example/customers/7?a=b@c')).toBe('https://crm.example/customers/7?a=b@c')
  })

  it('is described by a document of the standard', async () => {
    const { valid, errors } = await new Validator().validate(JSON.parse(readFileSync('docs/customer-lookup.json', 'utf8')) as never)
    expect(errors).toBeUndefined()
    expect(valid).toBe(true)
    server = createServer()
  })
})
