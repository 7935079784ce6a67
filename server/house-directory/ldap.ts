import net from 'node:net'
import tls from 'node:tls'
import {
  Client, type Entry as LdapEntry, type Filter, FilterParser, InsufficientAccessError, InvalidCredentialsError, NoSuchObjectError, ResultCodeError,
  SizeLimitExceededError, TimeLimitExceededError,
} from 'ldapts'
import { plainText } from '~~/core/calls/text'
import { t } from '../language'

/** A directory that can't be read. The message is a sentence. */
export class DirectoryUnread extends Error {}

export interface DirectorySource {
  /** ldap://host:port or ldaps://host:port. */
  address: string
  startTls: boolean
  /** A distinguished name; empty: we ask as nobody. */
  user: string
  password: string
  base: string
  filter: string
}

export interface DirectoryEntry {
  /** The same for ever, whatever else becomes of it. */
  key: string
  /** The first value of each attribute, by its name in small letters. */
  values: Map<string, string>
}

/** Milliseconds, bytes, entries. */
const longestConnecting = 8_000
const longestReading = 60_000
const measuredEvery = 100
const largest = 128 * 1024 * 1024
export const mostEntries = 20_000
const pageSize = 250
const longestValue = 1_000
/** What stays the same of an entry, by kind of server: RFC 4530, and its older cousins. */
const keys = ['entryUUID', 'nsUniqueId', 'objectGUID']
/** What nobody needs to see to tell a telephone number from a name. */
const hidden = /pass|pwd|secret|hash|cert|photo|logo|audio|krb|samba|^objectclass$/i

/**
 * Everybody whom a directory shows.
 * @param attributes those that are wanted; null: all that it has
 * @param allowed addresses that may be asked at all, as "ldap://10.0.0.5:389"
 * @throws DirectoryUnread
 */
export async function readEntries(source: DirectorySource, attributes: readonly string[] | null, allowed: readonly string[]): Promise<DirectoryEntry[]> {
  if (!URL.canParse(source.address)) throw new DirectoryUnread(t('answers.directoryAddressUnreadable'))
  const address = new URL(source.address)
  if (!allowed.some(one => placeOf(one) === placeOf(source.address))) {
    throw new DirectoryUnread(t('answers.mayNotAsk', { address: plainText(source.address, 100) }))
  }
  const filter = filterOf(source.filter)
  const sockets = new Set<net.Socket>()
  const end = () => sockets.forEach(socket => socket.destroy())
  const kept = <S extends net.Socket>(socket: S): S => {
    sockets.add(socket)
    return socket
  }
  /** Nothing that is answered fills the memory. */
  let tooLarge = false
  const measuring = setInterval(() => {
    tooLarge ||= [...sockets].some(({ bytesRead }) => bytesRead > largest)
    if (tooLarge) end()
  }, measuredEvery)
  let late = false
  const timer = setTimeout(() => {
    late = true
    end()
  }, longestReading)
  const servername = net.isIP(address.hostname) ? '' : address.hostname
  const client = new Client({
    url: source.address, timeout: longestReading, connectTimeout: longestConnecting, strictDN: false,
    // Where these stand, the library begins with TLS.
    ...address.protocol === 'ldaps:' && { tlsOptions: { servername } },
    createConnection: ((port: number, host: string) => kept(net.connect(port, host))) as typeof net.connect,
    createSecureConnection: ((...how: Parameters<typeof tls.connect>) => kept(tls.connect(...how))) as typeof tls.connect,
  })
  try {
    if (source.startTls && address.protocol === 'ldap:') await client.startTLS({ servername, host: address.hostname })
    if (source.user !== '') await client.bind(source.user, source.password)
    const found: DirectoryEntry[] = []
    const pages = client.searchPaginated(source.base, {
      scope: 'sub', filter, attributes: [...attributes ?? ['*'], ...keys], paged: { pageSize }, explicitBufferAttributes: ['objectGUID'],
    })
    for await (const { searchEntries } of pages) {
      for (const entry of searchEntries) found.push(entryOf(entry))
      if (found.length > mostEntries) throw new DirectoryUnread(t('answers.tooManyEntries', { most: mostEntries }))
    }
    return found
  }
  catch (error) {
    if (late) throw new DirectoryUnread(t('answers.directoryIsLate'))
    if (tooLarge) throw new DirectoryUnread(t('answers.directoryTooLarge', { megabytes: largest / 1024 / 1024 }))
    throw error instanceof DirectoryUnread ? error : new DirectoryUnread(sentenceOf(error, source))
  }
  finally {
    clearTimeout(timer)
    clearInterval(measuring)
    await client.unbind().catch(() => {})
    end()
  }
}

function filterOf(text: string): Filter {
  try {
    return FilterParser.parseString(text)
  }
  catch {
    throw new DirectoryUnread(t('answers.filterUnreadable'))
  }
}

/** An address without what is taken for granted. */
function placeOf(address: string): string {
  if (!URL.canParse(address)) return address
  const { protocol, hostname, port } = new URL(address)
  return `${protocol}//${hostname.toLowerCase()}:${port || (protocol === 'ldaps:' ? 636 : 389)}`
}

function entryOf(entry: LdapEntry): DirectoryEntry {
  const values = new Map<string, string>()
  let key = `dn ${entry.dn.toLowerCase()}`
  for (const [name, all] of Object.entries(entry)) {
    const value = Array.isArray(all) ? all[0] : all
    if (value === undefined || name === 'dn') continue
    if (keys.some(one => one.toLowerCase() === name.toLowerCase())) key = `${name.toLowerCase()} ${Buffer.isBuffer(value) ? value.toString('hex') : value}`
    else if (typeof value === 'string' && value !== '' && !hidden.test(name)) values.set(name.toLowerCase(), plainText(value, longestValue))
  }
  return { key: key.slice(0, 600), values }
}

const tlsFaults = /CERT|SELF_SIGNED|UNABLE_TO|ERR_TLS|EPROTO|wrong version|altname/i

function sentenceOf(error: unknown, { user, base, startTls, address }: DirectorySource): string {
  const { code, message = '' } = error as { code?: unknown, message?: string }
  if (error instanceof InvalidCredentialsError) return `The directory does not know ${plainText(user, 100)} with that password.`
  if (error instanceof NoSuchObjectError) return `The directory has no part ${plainText(base, 100)} that we may see.`
  if (error instanceof InsufficientAccessError) return 'The directory does not let us read there: ask as somebody who may.'
  if (error instanceof SizeLimitExceededError)
    return 'The directory gives out fewer entries at once than there are: have its limit raised for us, or use a narrower filter. Nothing was taken.'
  if (error instanceof TimeLimitExceededError) return 'The directory took longer than it allows itself: use a narrower filter.'
  const said = typeof code === 'string' ? code : ''
  const isEncrypted = startTls || /^ldaps:/i.test(address)
  if (tlsFaults.test(said) || (isEncrypted && tlsFaults.test(message))) {
    const why = plainText(said || message, 60)
    return `The directory can't be trusted (${why}): its certificate must be good for this name, and signed by somebody whom this server trusts.`
  }
  if (error instanceof ResultCodeError) return `The directory refuses: ${plainText(message, 160)}`
  return `The directory can't be reached (${said || 'no connection'}).`
}
