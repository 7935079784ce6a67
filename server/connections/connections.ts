import { wellFormed } from '~~/core/calls/text'
import { lookUp } from '~~/core/company/lookups'
import type { Connection } from '~~/shared/connections'
import { fromDatabase } from '../database/away'
import type { Relay } from '../relay'

type Named = Pick<Connection, 'kind' | 'id'>

/** All other programs that this house lives with, and how they are: those first without which nobody calls. */
export async function connectionsOf(relay: Relay): Promise<Connection[]> {
  const [books, calendars] = await fromDatabase(() => Promise.all([relay.addressBooks.all(), relay.calendars.fetched()]))
  const { people, duties } = relay.company.current
  return [
    exchangeOf(relay),
    ...relay.customers.name === '' ? [] : [customersOf(relay)],
    ...books.map(({ id, name, address, contacts, unread, readAt, failure }): Connection => ({
      kind: 'addressBook', id, name, address, well: failure === null, lastSuccess: readAt, lastProblem: failure,
      brings: `${contacts} contacts${unread > 0 ? `; ${unread} cards name nobody` : ''}`,
    })),
    ...calendars.map(({ of, address, readAt, failure, times, problems }): Connection => {
      const person = lookUp(people, of)
      return {
        kind: 'calendar', id: of, name: person ? `${person.first} ${person.last}` : lookUp(duties, of)?.name ?? of, address: address ?? '',
        well: failure === null, lastSuccess: readAt, lastProblem: failure,
        brings: `${times} times${problems.length > 0 ? `; ${problems.length} that could not be read` : ''}`,
      }
    }),
  ]
}

/**
 * Tries one of them at once.
 * @returns how it is then
 * @throws 404
 */
export async function tryNow(relay: Relay, { kind, id: typed }: Named): Promise<Connection> {
  const id = wellFormed(typed)
  switch (kind) {
    case 'exchange':
      await relay.link?.tryNow()
      break
    case 'customers':
      // A number that nobody has: what counts is that it answers.
      await relay.customers.look('+441632960999', true)
      break
    case 'addressBook':
      await relay.addressBooks.readNow(id)
      break
    case 'calendar':
      await relay.calendars.readNow(id)
  }
  const found = (await connectionsOf(relay)).find(one => one.kind === kind && one.id === id)
  if (!found) throw createError({ statusCode: 404, message: 'There is no such connection any more.' })
  return found
}

function exchangeOf({ link }: Relay): Connection {
  return {
    kind: 'exchange', id: '', name: 'Telephone exchange', address: '', well: link?.up ?? false, lastSuccess: link?.lastHeard ?? null,
    lastProblem: link?.lastProblem ?? null, brings: 'calls',
  }
}

function customersOf({ customers: { name, address, isWell, lastSuccess, lastProblem } }: Relay): Connection {
  return { kind: 'customers', id: '', name, address, well: isWell, lastSuccess, lastProblem, brings: 'who callers are' }
}
