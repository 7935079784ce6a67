import { spoken } from '~~/words/phrase'
import { wellFormed } from '~~/core/calls/text'
import { lookUp } from '~~/core/company/lookups'
import type { Connection } from '~~/shared/connections'
import type { HouseDirectoryState } from '~~/shared/house-directory'
import type { IdentitySettings } from '~~/shared/identity'
import { fromDatabase } from '../database/away'
import type { Relay } from '../relay'
import { t } from '../language'

type Named = Pick<Connection, 'kind' | 'id'>

/** All other programs that this house lives with, and how they are: those first without which nobody calls. */
export async function connectionsOf(relay: Relay): Promise<Connection[]> {
  const [identity, directory, books, calendars] = await fromDatabase(() => Promise.all([
    relay.identity.settings(), relay.houseDirectory.state(), relay.addressBooks.all(), relay.calendars.fetched(),
  ]))
  const { people, duties } = relay.company.current
  return [
    exchangeOf(relay),
    ...relay.customers.name === '' ? [] : [customersOf(relay)],
    ...identity.settings === null ? [] : [identityOf(identity)],
    ...directory.settings === null ? [] : [houseDirectoryOf(directory)],
    ...books.map(({ id, name, address, contacts, unread, cut, cutCards, readAt, failure }): Connection => ({
      kind: 'addressBook', id, name, address, well: failure === null, lastSuccess: readAt, lastProblem: failure,
      brings: [
        t('answers.countContacts', { count: contacts }), ...unread > 0 ? [t('answers.countCardsWithoutName', { count: unread })] : [],
        ...cut > 0 ? [t('answers.notKeptWhole', { cut })] : [],
      ].join('; '),
      notKept: cutCards,
    })),
    ...calendars.map(({ of, address, readAt, failure, times, problems }): Connection => {
      const person = lookUp(people, of)
      return {
        kind: 'calendar', id: of, name: person ? `${person.first} ${person.last}` : lookUp(duties, of)?.name ?? of, address: address ?? '',
        well: failure === null, lastSuccess: readAt, lastProblem: failure,
        brings: [t('answers.countBusyTimes', { count: times }), ...problems.length > 0 ? [t('answers.notRead', { problems: problems.length })] : []].join('; '),
        notKept: problems.map(problem => spoken(t, problem)),
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
    case 'identityProvider':
      await relay.identity.tryNow().catch(() => {
        // How it is then says why.
      })
      break
    case 'houseDirectory':
      await relay.houseDirectory.readNow()
      break
    case 'addressBook':
      await relay.addressBooks.readNow(id)
      break
    case 'calendar':
      await relay.calendars.readNow(id)
  }
  const found = (await connectionsOf(relay)).find(one => one.kind === kind && one.id === id)
  if (!found) throw createError({ statusCode: 404, message: t('answers.noSuchConnection') })
  return found
}

function exchangeOf({ link }: Relay): Connection {
  return {
    kind: 'exchange', id: '', name: t('answers.telephoneExchange'), address: '', well: link?.up ?? false, lastSuccess: link?.lastHeard ?? null,
    lastProblem: link?.lastProblem ?? null, brings: t('answers.bringsCalls'), notKept: [],
  }
}

function customersOf({ customers: { name, address, isWell, lastSuccess, lastProblem } }: Relay): Connection {
  return { kind: 'customers', id: '', name, address, well: isWell, lastSuccess, lastProblem, brings: t('answers.bringsCallers'), notKept: [] }
}

function houseDirectoryOf({ settings, readAt, failure, refused, people }: HouseDirectoryState): Connection {
  const gone = people.filter(({ gone }) => gone !== null).length
  const others = [...gone > 0 ? [t('answers.countGone', { gone })] : [], ...refused.length > 0 ? [t('answers.countRefused', { refused: refused.length })] : []]
  return {
    kind: 'houseDirectory', id: '', name: t('answers.houseDirectory'), address: settings!.address, well: failure === null, lastSuccess: readAt,
    lastProblem: failure, brings: [t('answers.countPeople', { count: people.length - gone }), ...others].join('; '), notKept: [],
  }
}

function identityOf({ settings, readAt, failure }: IdentitySettings): Connection {
  const { name, issuer: address } = settings!
  const well = failure === null
  return { kind: 'identityProvider', id: '', name, address, well, lastSuccess: readAt, lastProblem: failure, brings: t('answers.bringsSignIn'), notKept: [] }
}
