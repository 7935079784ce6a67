import { createServer, type IncomingMessage, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { parseArgs } from 'node:util'
import { BookServer } from './book-server'
import { customerWith } from './company/customers'
import { harbourCards } from './company/harbour-book'
import { calendarOf, occupantsAt, rosterOf } from './company/whereabouts'
import { merrowby } from './company/merrowby'
import { demoNow } from './clock'

/**
 * Stands in for programs of the office and beyond: it serves everybody's calendar and the rosters as iCalendar over HTTP, tells the console every few minutes
 * who is at which place, looks customers up by their numbers (docs/customer-lookup.json), and has the harbour association's address book (CardDAV).
 */
const { values } = parseArgs({ options: { port: { type: 'string', default: '0' }, people: { type: 'string', default: '182' } } })
const company = merrowby(Number(values.people))
const people = Object.keys(company.people)
const every = 5 * 60_000

function calendarAt(path: string): string | null {
  const [, folder, name] = /^\/(people|rosters)\/([^/]+)\.ics$/.exec(decodeURIComponent(path)) ?? []
  if (folder === 'rosters') return name! in company.duties ? rosterOf(company, name!) : null
  const index = people.indexOf(name ?? '')
  return index < 0 ? null : calendarOf(index)
}

const book = new BookServer('harbour')
for (const [name, card] of harbourCards()) book.put(name, card)

const server = createServer((request, response) => void answer(request, response))

async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
  if (await book.answer(request, response)) return
  const url = new URL(request.url ?? '/', 'http://office')
  if (url.pathname === '/customers') {
    const known = request.headers.authorization === `Bearer ${process.env.ESTAFETTE_CUSTOMER_TOKEN}`
    response.writeHead(known ? 200 : 401, { 'content-type': 'application/json' })
    response.end(JSON.stringify(known ? { customer: customerWith(company, url.searchParams.get('number') ?? '') } : {}))
    return
  }
  let text: string | null = null
  try {
    text = calendarAt((request.url ?? '').split('?')[0]!)
  }
  catch {
    // An address that can't be read is no calendar.
  }
  response.writeHead(text === null ? 404 : 200, { 'content-type': text === null ? 'text/plain' : 'text/calendar; charset=utf-8' })
  response.end(text ?? 'No such calendar.')
}
// The port that was asked for, if it is free.
server.once('error', () => server.listen(0, '127.0.0.1'))
server.listen(Number(values.port), '127.0.0.1')
server.once('listening', () => process.send?.({ port: (server.address() as AddressInfo).port }))
process.once('disconnect', () => process.exit(0))

async function tell(console: string): Promise<void> {
  try {
    const headers = { 'authorization': `Bearer ${process.env.ESTAFETTE_OCCUPANCY_TOKEN}`, 'content-type': 'text/csv' }
    await fetch(`${console}/api/occupants/feed`, { method: 'POST', headers, body: occupantsAt(demoNow()) })
  }
  catch {
    // The console is away: told the next time.
  }
}

// Whoever started us says where the console is, once it is there.
process.once('message', ({ console }: { console: string }) => {
  setInterval(() => void tell(console), every)
  void tell(console)
})
