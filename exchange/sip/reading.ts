import { IncomingRequestMessage, IncomingResponseMessage, NameAddrHeader, URI } from 'sip.js/lib/core/index.js'
import type { Peer } from './wire'

/**
 * Messages as RFC 3261 writes them, made into what the library works with. Its own reader takes three milliseconds for each: twenty calls a second would leave
 * no time for anything else.
 */

/** Short names of header fields (RFC 3261, section 7.3.3, and others). */
const shortNames: Record<string, string> = {
  i: 'call-id', m: 'contact', e: 'content-encoding', l: 'content-length', c: 'content-type', f: 'from', s: 'subject', k: 'supported', t: 'to', v: 'via',
  r: 'refer-to', b: 'referred-by', o: 'event', u: 'allow-events', x: 'session-expires',
}
/** Fields whose values may stand in one line, with commas between. */
const lists = new Set(['via', 'contact', 'route', 'record-route'])
/** Stands for the one contact that is all of them (`*`), which the library does not know. */
export const allContacts = 'x-all-contacts'

const requestLine = /^([A-Za-z0-9._!%*+`'~-]{1,20}) (\S{1,1000}) SIP\/2\.0$/
const statusLine = /^SIP\/2\.0 ([1-6]\d\d)(?: (.*))?$/
const viaForm = /^SIP\s*\/\s*2\.0\s*\/\s*([A-Za-z]+)\s+(\[[^\]]+\]|[^\s;:,]+)(?:\s*:\s*(\d{1,5}))?\s*(;.*)?$/i

/**
 * Reads a message, with where it came from written at its top (RFC 3261, section 18.2.1; RFC 3581).
 * @returns null for whatever is none, or says too little to be answered
 */
export function readMessage(text: string, peer: Peer): IncomingRequestMessage | IncomingResponseMessage | null {
  const end = text.indexOf('\r\n\r\n')
  if (end < 0) return null
  const [first, ...lines] = text.slice(0, end).replace(/\r\n[ \t]+/g, ' ').split('\r\n')
  const [, method, target] = requestLine.exec(first!) ?? []
  const [, status, reason] = statusLine.exec(first!) ?? []
  if (!method && !status) return null
  const message = method ? new IncomingRequestMessage() : new IncomingResponseMessage()
  for (const line of lines) {
    const [, written, value] = /^([^\s:]+)[ \t]*:[ \t]*(.*)$/.exec(line) ?? []
    if (written === undefined) return null
    const name = shortNames[written.toLowerCase()] ?? written.toLowerCase()
    if (name === 'contact' && value!.trim() === '*') message.addHeader(allContacts, '*')
    else for (const one of lists.has(name) ? splitList(value!) : [value!.trim()]) message.addHeader(name, one)
  }
  if (message instanceof IncomingRequestMessage) {
    const uri = readUri(target!)
    if (!uri) return null
    message.method = method!
    message.ruri = uri
    if (!writeSource(message, peer)) return null
  }
  else {
    message.statusCode = Number(status)
    message.reasonPhrase = reason ?? ''
  }
  message.data = text
  return readHead(message) && readBody(message, text.slice(end + 4)) ? message : null
}

type Message = IncomingRequestMessage | IncomingResponseMessage

/** Who, to whom, in which call: everything without which nothing can be answered. */
function readHead(message: Message): boolean {
  const [, transport, host, port, parameters] = viaForm.exec(message.getHeader('via') ?? '') ?? []
  const branch = readParameters(parameters ?? '').branch
  const [from, to] = [parsed(message, 'from'), parsed(message, 'to')]
  const [, cseq, method] = /^(\d{1,10})\s+(\S+)$/.exec(message.getHeader('cseq') ?? '') ?? []
  const callId = message.getHeader('call-id')
  if (!transport || !branch || !from || !to || !callId || !from.getParam('tag') || !cseq || Number(cseq) >= 2 ** 31) return false
  // What a request is stands there twice, and alike (RFC 4475, section 3.1.2.17).
  if (message instanceof IncomingRequestMessage && message.method !== method) return false
  message.via = { host: host!, port: Number(port ?? 5060) }
  message.viaBranch = branch
  message.from = from
  message.to = to
  message.fromTag = from.getParam('tag')!
  message.toTag = to.getParam('tag') ?? ''
  message.callId = callId
  message.cseq = Number(cseq)
  message.method = method!
  message.referTo = message.getHeader('refer-to')
  return message.getHeaders('contact').every((_, at) => parsed(message, 'contact', at) !== null)
}

/** What stands after the head is as long as it says, where it says so. */
function readBody(message: Message, rest: string): boolean {
  const length = message.getHeader('content-length')
  const bytes = Buffer.from(rest)
  if (length !== undefined && !(/^\d{1,6}$/.test(length) && Number(length) <= bytes.length)) return false
  message.body = length === undefined ? rest : bytes.subarray(0, Number(length)).toString('utf8')
  const [type] = fieldOf(message, 'content-type') ?? []
  if (type) type.parsed = type.raw
  return true
}

function fieldOf(message: Message, name: string) {
  return Object.entries(message.headers).find(([known]) => known.toLowerCase() === name)?.[1]
}

function parsed(message: Message, name: string, at = 0): NameAddrHeader | null {
  const field = fieldOf(message, name)?.[at]
  if (!field) return null
  field.parsed = readNameAddress(field.raw) ?? undefined
  return field.parsed as NameAddrHeader | undefined ?? null
}

function writeSource(message: IncomingRequestMessage, { protocol, address, port }: Peer): boolean {
  const top = fieldOf(message, 'via')?.[0]
  const [, , host, theirs, parameters] = viaForm.exec(top?.raw ?? '') ?? []
  if (!top || !host) return false
  const plain = (parameters ?? '').replace(/;\s*(rport|received)(\s*=[^;]*)?/gi, '').trim()
  top.raw = `SIP/2.0/${protocol.toUpperCase()} ${host}${theirs ? `:${theirs}` : ''}${plain};received=${address};rport=${port}`
  return true
}

/** @returns null where it can't be read */
function readNameAddress(text: string): NameAddrHeader | null {
  const [, quotedName, plainName, inside, after] = /^(?:"((?:[^"\\]|\\.)*)"|([^<"]*))\s*<([^<>]*)>\s*(;.*)?$/.exec(text) ?? []
  if (inside !== undefined) {
    const uri = readUri(inside.trim())
    return uri && new NameAddrHeader(uri, (quotedName?.replace(/\\(.)/g, '$1') ?? plainName ?? '').trim(), readParameters(after ?? ''))
  }
  // Without brackets everything after the first semicolon belongs to the field.
  const [, bare, more] = /^([^<>";\s]+)\s*(;.*)?$/.exec(text) ?? []
  const uri = bare ? readUri(bare) : null
  return uri && new NameAddrHeader(uri, '', readParameters(more ?? ''))
}

/** @returns null where it can't be read, or is of a kind that no telephone has */
export function readUri(text: string): URI | null {
  const [, number] = /^tel:([+0-9*#A-Da-d().-]{1,60})(?:;.*)?$/i.exec(text) ?? []
  if (number) return new URI('tel', number.replace(/[().-]/g, ''), 'invalid')
  const [, scheme, user, place, headers] = /^(sips?):(?:([^@<>"\s]{1,500})@)?([^?\s]+)(?:\?(\S*))?$/i.exec(text) ?? []
  const [, host, port, parameters] = /^(\[[0-9a-f:.]{2,45}\]|[a-z0-9._-]{1,255})(?::(\d{1,5}))?((?:;[^;?<>"\s]*)*)$/i.exec(place ?? '') ?? []
  const name = user === undefined ? undefined : unescaped(user.split(':')[0]!)
  if (!host || name === null || Number(port ?? 0) > 65_535) return null
  const pairs = (headers ?? '').split('&').filter(Boolean).map(pair => pair.split('='))
  const fields = Object.fromEntries(pairs.map(([name, ...value]) => [name!, [unescaped(value.join('=')) ?? '']]))
  return new URI(scheme!.toLowerCase(), name as string, host, port === undefined ? undefined : Number(port), readParameters(parameters ?? ''), fields)
}

/** Escaped signs (%41) as they are meant; null where they are no text. */
export function unescaped(text: string): string | null {
  try {
    return decodeURIComponent(text)
  }
  catch {
    return null
  }
}

function readParameters(text: string): Record<string, string> {
  const found: Record<string, string> = {}
  for (const [, name, quotedValue, plain] of text.matchAll(/;\s*([^=;\s]+)(?:\s*=\s*(?:"((?:[^"\\]|\\.)*)"|([^;]*)))?/g))
    found[name!.toLowerCase()] = (quotedValue ?? plain ?? '').trim()
  return found
}

/** Values that stand in one line: at commas that are in no quotes and no brackets. */
function splitList(text: string): string[] {
  const values: string[] = []
  let [value, isQuoted, depth] = ['', false, 0]
  for (let at = 0; at < text.length; at++) {
    const sign = text[at]!
    if (isQuoted && sign === '\\') {
      value += sign + (text[++at] ?? '')
      continue
    }
    if (sign === '"') isQuoted = !isQuoted
    else if (!isQuoted && sign === '<') depth++
    else if (!isQuoted && sign === '>') depth--
    if (sign === ',' && !isQuoted && depth <= 0) {
      values.push(value.trim())
      value = ''
    }
    else value += sign
  }
  return [...values, value.trim()]
}
