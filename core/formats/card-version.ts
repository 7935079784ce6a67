import { type ContentLine, escaped, parameterOf, textValue } from './content-line'

/**
 * The same property as version 3.0 (RFC 2426) and as version 4.0 (RFC 6350; appendix A says what has changed) write it: data within the card, what is
 * preferred, dates, places, zones and numbers. What neither writes differently stays as it is.
 */

type Parameters = ContentLine['parameters']

/** Of a card of version 4.0: of each property the lines that are preferred most (RFC 6350, 5.3). */
export function preferredOf(lines: readonly ContentLine[]): Set<ContentLine> {
  const rankOf = (line: ContentLine) => Number(parameterOf(line, 'PREF')[0] ?? NaN)
  const best = new Map<string, number>()
  for (const line of lines) {
    const rank = rankOf(line)
    if (rank >= 1 && rank <= 100) best.set(line.name, Math.min(rank, best.get(line.name) ?? Infinity))
  }
  return new Set(lines.filter(line => rankOf(line) === best.get(line.name)))
}

export function inVersion4(line: ContentLine): ContentLine {
  const types = typesOf(line)
  const others = types.filter(type => type.toLowerCase() !== 'pref' && !isOldType(line.name, type))
  const preferred = types.some(type => type.toLowerCase() === 'pref')
  const parameters: Parameters = [
    ...without(line, 'TYPE', ...preferred ? ['PREF'] : []), ...others.length > 0 ? [['TYPE', others] as [string, string[]]] : [],
    ...preferred ? [['PREF', ['1']] as [string, string[]]] : [],
  ]
  // Untouched where nothing has changed: it comes out as it went in.
  const kept = others.length === types.length ? line : { ...line, parameters }
  if (parameterOf(line, 'ENCODING').some(isBase64)) return dataIn4(line, types)
  switch (line.name) {
    case 'BDAY': case 'REV': return withValue(kept, basicDate(line.value))
    case 'X-BDAY': return { ...withValue(kept, line.value), name: 'BDAY', written: undefined }
    case 'GEO': return withValue(kept, line.value.replace(/^\s*(-?[\d.]+)\s*;\s*(-?[\d.]+)\s*$/, 'geo:$1,$2'))
    case 'TZ': return isOffset(line.value)
      ? { ...kept, parameters: [...without(kept, 'VALUE'), ['VALUE', ['utc-offset']]], value: line.value.replaceAll(':', '') }
      : kept
    case 'UID': return isAddress(line.value) || parameterOf(line, 'VALUE').length > 0 ? kept : withParameter(kept, 'VALUE', 'text')
    case 'LANGUAGE': return { ...kept, name: 'LANG', written: undefined }
    default: return kept
  }
}

/** @param preferred no other of its kind is preferred more */
export function inVersion3(line: ContentLine, preferred: boolean): ContentLine {
  const data = /^data:([\w.+-]+)\/([\w.+-]+);base64,([\s\S]*)$/i.exec(line.value)
  if (data) {
    const parameters: Parameters = [...without(line, 'VALUE', 'MEDIATYPE', 'PREF'), ['ENCODING', ['b']], ['TYPE', [data[2]!.toUpperCase()]]]
    return withPreference({ ...line, parameters, value: data[3]! }, preferred)
  }
  if (parameterOf(line, 'ENCODING').some(isBase64)) {
    const medium = typesOf(line).map(type => ['TYPE', [type.toUpperCase()]] as [string, string[]])
    return { ...line, parameters: [...without(line, 'ENCODING', 'TYPE', 'VALUE'), ['ENCODING', ['b']], ...medium], value: line.value.replace(/\s/g, '') }
  }
  const kept = withPreference(parameterOf(line, 'PREF').length > 0 ? { ...line, parameters: without(line, 'PREF') } : line, preferred)
  switch (line.name) {
    case 'TEL': return isUri(line) ? { ...kept, parameters: without(kept, 'VALUE'), value: escaped(spokenNumber(line.value)) } : kept
    case 'BDAY': return /^\d{4}-?\d{2}-?\d{2}/.test(line.value)
      ? withValue(kept, extendedDate(line.value))
      : { ...kept, name: 'X-BDAY', written: undefined }
    case 'REV': return withValue(kept, extendedDate(line.value))
    case 'GEO': return withValue({ ...kept, parameters: without(kept, 'VALUE') }, line.value.replace(/^geo:(-?[\d.]+),(-?[\d.]+).*$/i, '$1;$2'))
    case 'TZ': return isOffset(line.value)
      ? { ...kept, parameters: without(kept, 'VALUE'), value: line.value.replace(/^([+-]\d{2}):?(\d{2})$/, '$1:$2') }
      : parameterOf(line, 'VALUE').length > 0 ? kept : withParameter(kept, 'VALUE', 'text')
    case 'UID': return parameterOf(line, 'VALUE').length > 0 ? { ...kept, parameters: without(kept, 'VALUE') } : kept
    case 'LANG': return { ...kept, name: 'LANGUAGE', written: undefined }
    default: return kept
  }
}

const typesOf = (line: ContentLine) => parameterOf(line, 'TYPE').flatMap(type => type.split(','))
const without = ({ parameters }: ContentLine, ...names: string[]): Parameters => parameters.filter(([name]) => !names.includes(name))
const withValue = (line: ContentLine, value: string): ContentLine => value === line.value ? line : { ...line, value }
const withParameter = (line: ContentLine, name: string, value: string): ContentLine => ({ ...line, parameters: [...line.parameters, [name, [value]]] })
const isBase64 = (encoding: string) => /^(b|base64)$/i.test(encoding)
const isUri = (line: ContentLine) => /^tel:/i.test(line.value) || parameterOf(line, 'VALUE').some(kind => /^uri$/i.test(kind))
const isAddress = (text: string) => /^[a-z][a-z0-9+.-]*:/i.test(text)
const isOffset = (text: string) => /^[+-]\d{2}:?\d{2}$/.test(text)

/** Kinds that version 4.0 no longer has. */
function isOldType(name: string, type: string): boolean {
  return (name === 'EMAIL' && /^(internet|x400)$/i.test(type)) || (name === 'ADR' && /^(dom|intl|postal|parcel)$/i.test(type))
}

function withPreference(line: ContentLine, preferred: boolean): ContentLine {
  return preferred ? withParameter(line, 'TYPE', 'pref') : line
}

function dataIn4(line: ContentLine, types: readonly string[]): ContentLine {
  const medium = types.find(type => type.toLowerCase() !== 'pref')?.toLowerCase() ?? 'octet-stream'
  const kind = line.name === 'SOUND' ? 'audio' : line.name === 'KEY' ? 'application' : 'image'
  const type = medium.includes('/') ? medium : `${kind}/${medium}`
  return { ...line, parameters: without(line, 'ENCODING', 'TYPE', 'VALUE'), value: `data:${type};base64,${line.value.replace(/\s/g, '')}` }
}

/** ISO 8601 in its basic form, of which version 4.0 knows no other; what is none stays. */
function basicDate(text: string): string {
  const seconds = (_all: string, hour: string, minute: string, second = '00') => `T${hour}${minute}${second}`
  return text.replace(/^(\d{4})-(\d{2})-(\d{2})(?=T|$)/, '$1$2$3')
    .replace(/T(\d{2}):(\d{2})(?::(\d{2}))?(?:\.\d+)?/, seconds)
    .replace(/([+-]\d{2}):(\d{2})$/, '$1$2')
}

/** The same in its extended form, which every reader of version 3.0 knows. */
function extendedDate(text: string): string {
  return text.replace(/^(\d{4})(\d{2})(\d{2})(?=T|$)/, '$1-$2-$3')
    .replace(/T(\d{2})(\d{2})(\d{2})/, 'T$1:$2:$3')
    .replace(/(T.*[+-]\d{2})(\d{2})$/, '$1:$2')
}

/** A number with its extension (RFC 3966, 5.3) as people write it. */
function spokenNumber(uri: string): string {
  const [number = '', ...parameters] = textValue(uri).replace(/^tel:/i, '').split(';')
  const extension = parameters.find(one => /^ext=/i.test(one))?.slice(4)
  return extension ? `${number} ext. ${extension}` : number
}
