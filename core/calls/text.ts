/** Control characters, line separators, and marks that turn the direction of writing: never part of a name or a number. */
// eslint-disable-next-line no-control-regex
const unprintable = /[\u0000-\u001F\u007F-\u009F\u200B-\u200F\u2028-\u202E\u2060-\u2069\uFEFF\uFFF9-\uFFFB]|\p{Cs}/gu

/** Text from outside made safe to keep and to show on one line: printable, single spaces, at most `longest` characters. */
export function plainText(text: string, longest: number): string {
  return text.replace(unprintable, ' ').replace(/\s+/g, ' ').trim().slice(0, longest)
}
