/** Control characters, line separators, marks that turn the direction of writing, and halves of characters: never part of a name or a number. */
// eslint-disable-next-line no-control-regex
const unprintable = /[\u0000-\u001F\u007F-\u009F\u200B-\u200F\u2028-\u202E\u2060-\u206F\uFEFF\uFFF9-\uFFFB]|\p{Cs}/gu
/** Fillers, the empty braille cell, and tags: a name of them alone would look like none. */
const blank = /\u115F|\u1160|\u17B4|\u17B5|\u2800|\u3164|\uFFA0|[\u{E0000}-\u{E007F}]/gu

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' })

/**
 * Text from outside made safe to keep and to show on one line: well-formed, printable, single spaces, at most `longest` UTF-16 units.
 * It is cut between what a reader takes for characters (grapheme clusters, UAX #29), never within one.
 */
export function plainText(text: string, longest: number): string {
  const clean = text.replace(unprintable, ' ').replace(blank, ' ').replace(/\s+/g, ' ').trim()
  return clean.length <= longest ? clean : cut(clean, longest).trim()
}

/** The same for a text of several lines: what ends a line stays, and no more than one line is empty at a time. */
export function plainLines(text: string, longest: number): string {
  const lines = text.split(/\r\n?|[\n\u2028\u2029]/).map(line => plainText(line, Infinity))
  const clean = lines.join('\n').replace(/\n{3,}/g, '\n\n').trim()
  return clean.length <= longest ? clean : cut(clean, longest).trim()
}

function cut(text: string, longest: number): string {
  let end = 0
  // What can't fit is not looked at: a hostile text may be long.
  for (const { segment, index } of graphemes.segment(text.slice(0, longest + 2))) {
    if (index + segment.length > longest) break
    end = index + segment.length
  }
  return text.slice(0, end)
}

/** The same value with every text in it well-formed (no half characters) and without NUL, which no database keeps. */
export function wellFormed<T>(value: T): T {
  if (typeof value === 'string') return value.replace(/\p{Cs}/gu, '\uFFFD').replaceAll('\0', '\uFFFD') as T
  if (Array.isArray(value)) return value.map(wellFormed) as T
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, part]) => [wellFormed(key), wellFormed(part)])) as T
}
