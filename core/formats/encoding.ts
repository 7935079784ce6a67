/**
 * The text of a file that somebody else wrote: UTF-8 and UTF-16 by their byte order mark, else UTF-8 where it is that, else Windows-1252 (of which Latin-1 is a
 * part).
 */
export function textOf(bytes: Uint8Array): string {
  const encoding = bytes[0] === 0xFF && bytes[1] === 0xFE ? 'utf-16le' : bytes[0] === 0xFE && bytes[1] === 0xFF ? 'utf-16be' : 'utf-8'
  return decoded(bytes, encoding)
}

function decoded(bytes: Uint8Array, encoding: string): string {
  try {
    return new TextDecoder(encoding, { fatal: encoding === 'utf-8' }).decode(bytes)
  }
  catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

/** Bytes as the text of a charset that a file names; Windows-1252 when there is no such charset, or they are none of it. */
export function decodedAs(bytes: Uint8Array, charset: string): string {
  try {
    return new TextDecoder(charset, { fatal: true }).decode(bytes)
  }
  catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}
