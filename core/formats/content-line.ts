import { decodedAs } from './encoding'

/**
 * The lines of which vCards are made (RFC 6350, 3.2 and 3.3; RFC 2426; and what is written in the manner of vCard 2.1: parameters without a name, and
 * quoted-printable). They are read and written here and not by a package, because every letter of what is not understood has to come out again: the packages
 * looked at lost groups, escapes or commas on the way.
 */
export interface ContentLine {
  /** Of a grouped property ("item1"), else null. */
  group: string | null
  /** In capitals. */
  name: string
  /** The name as it is written. */
  written?: string
  /** Names in capitals, each with its values, in their order. */
  parameters: [name: string, values: string[]][]
  /** As it is written, with its escapes. */
  value: string
}

/** Octets. */
const longestLine = 75

/** The lines of a text with what continues them: a space or a tab at the beginning (3.2), or quoted-printable that ends in "=". Numbers count from 1. */
export function unfolded(text: string): { at: number, line: string }[] {
  const lines: { at: number, line: string }[] = []
  for (const [index, line] of text.replace(/^\uFEFF/, '').split(/\r\n?|\n/).entries()) {
    const last = lines.at(-1)
    if (last && /^[ \t]/.test(line)) last.line += line.slice(1)
    else if (last?.line.endsWith('=') && /^[^:]*QUOTED-PRINTABLE[^:]*:/i.test(last.line)) last.line = last.line.slice(0, -1) + line
    else lines.push({ at: index + 1, line })
  }
  return lines.filter(({ line }) => line.trim() !== '')
}

const beginning = /^(?:([\w-]+)\.)?([\w-]+)((?:;(?:[^":;]|"[^"]*")*)*):([\s\S]*)$/

/**
 * @param escapedBreaks what line breaks of quoted-printable become
 * @returns null for what is no such line
 */
export function readLine(line: string, escapedBreaks = (text: string) => text.replace(/\r\n?|\n/g, '\\n')): ContentLine | null {
  const found = beginning.exec(line)
  if (!found) return null
  const [, group = null, name, parameters, value] = found as unknown as [string, string | undefined, string, string, string]
  const read = parametersOf(parameters)
  return decodedLine({ group, name: name.toUpperCase(), written: name, parameters: read, value }, escapedBreaks)
}

/** What is one text in version 2.1, or texts with semicolons between them. */
const oldTexts = /^(FN|NOTE|TITLE|ROLE|LABEL|MAILER)$/
const oldParts = /^(N|ADR|ORG)$/

/**
 * A line of version 2.1 as those after it write it: there a backslash stands for itself but before a semicolon, commas need none, and line breaks are
 * written in quoted-printable alone.
 * @returns null for what is no such line
 */
export function readOldLine(line: string): ContentLine | null {
  const read = readLine(line, text => text)
  if (!read) return null
  if (!oldTexts.test(read.name) && !oldParts.test(read.name)) return { ...read, value: read.value.replace(/\r\n?|\n/g, '\\n') }
  const parts = read.value.split(/(?<!\\);/).map(part => escaped(part.replaceAll('\\;', ';')))
  return { ...read, value: parts.join(oldParts.test(read.name) ? ';' : '\\;') }
}

/** Parameters without a name say what kind it is, or how it is encoded. */
function parametersOf(text: string): ContentLine['parameters'] {
  return [...text.matchAll(/;((?:[^":;]|"[^"]*")*)/g)].flatMap(([, one]): ContentLine['parameters'] => {
    if (!one) return []
    const at = one.indexOf('=')
    if (at < 0) return [[/^(QUOTED-PRINTABLE|BASE64|8BIT|7BIT)$/i.test(one) ? 'ENCODING' : 'TYPE', [one]]]
    return [[one.slice(0, at).toUpperCase(), [...one.slice(at + 1).matchAll(/"([^"]*)"|[^,]+/g)].map(([whole, quoted]) => quoted ?? whole)]]
  })
}

/** Quoted-printable becomes plain text; a charset has then been read. */
function decodedLine(line: ContentLine, escapedBreaks: (text: string) => string): ContentLine {
  if (parameterOf(line, 'ENCODING').some(encoding => /^QUOTED-PRINTABLE$/i.test(encoding))) {
    const [charset = 'utf-8'] = parameterOf(line, 'CHARSET')
    const parameters = line.parameters.filter(([name]) => name !== 'ENCODING' && name !== 'CHARSET')
    return { ...line, parameters, value: escapedBreaks(decodedAs(octetsOf(line.value), charset)) }
  }
  return { ...line, parameters: line.parameters.filter(([name]) => name !== 'CHARSET') }
}

function octetsOf(quotedPrintable: string): Uint8Array {
  const octets: number[] = []
  const encoder = new TextEncoder()
  for (const [part, hex] of quotedPrintable.matchAll(/=([0-9a-f]{2})|[\s\S]/giu)) {
    if (hex) octets.push(Number.parseInt(hex, 16))
    else octets.push(...encoder.encode(part))
  }
  return Uint8Array.from(octets)
}

/** All values of a parameter, however often it stands there. */
export function parameterOf({ parameters }: ContentLine, wanted: string): string[] {
  return parameters.flatMap(([name, values]) => name === wanted ? values : [])
}

/** The line as text, not folded. */
export function lineText({ group, name, written = name, parameters, value }: ContentLine): string {
  const quoted = (text: string) => /[:;,]/.test(text) ? `"${text}"` : text
  const said = parameters.map(([parameter, values]) => `;${parameter}=${values.map(quoted).join(',')}`).join('')
  return `${group === null ? '' : `${group}.`}${written}${said}:${value}`
}

/** In parts of at most 75 octets, never within a character (3.2). */
export function folded(line: string): string {
  const encoder = new TextEncoder()
  let length = 0
  let text = ''
  for (const character of line) {
    const octets = encoder.encode(character).length
    if (length + octets > longestLine) {
      text += '\r\n '
      length = 1
    }
    text += character
    length += octets
  }
  return `${text}\r\n`
}

/** A text as the value of a property (3.4). */
export function escaped(text: string): string {
  return text.replace(/[\\,;]/g, '\\$&').replace(/\r\n?|\n/g, '\\n')
}

/** The parts of a value, divided by unescaped commas or semicolons, as texts. */
export function partsOf(value: string, divider: ',' | ';'): string[] {
  const parts = ['']
  for (const [whole, after] of value.matchAll(/\\([\s\S])|[\s\S]/gu)) {
    if (after !== undefined) parts[parts.length - 1] += /n/i.test(after) ? '\n' : after
    else if (whole === divider) parts.push('')
    else parts[parts.length - 1] += whole
  }
  return parts
}

/** A value as one text. */
export function textValue(value: string): string {
  return value.replace(/\\([\s\S])/g, (_whole, after: string) => /n/i.test(after) ? '\n' : after)
}
