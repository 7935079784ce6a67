/**
 * The text of a file that somebody else wrote: UTF-8 and UTF-16 by their byte order mark, UTF-16 without one by its zeros, else UTF-8 where it is that, else
 * Windows-1252 (of which Latin-1 is a part).
 */
export function textOf(bytes: Uint8Array): string {
  const encoding = bytes[0] === 0xFF && bytes[1] === 0xFE ? 'utf-16le' : bytes[0] === 0xFE && bytes[1] === 0xFF ? 'utf-16be' : unmarked(bytes)
  return decoded(bytes, encoding)
}

/** In UTF-16 every second byte of Latin letters is zero; in a text of one byte a letter none is. */
function unmarked(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | 'utf-8' {
  const beginning = bytes.subarray(0, 400)
  if (beginning.length < 4 || bytes.length % 2 === 1) return 'utf-8'
  const zeros = [0, 0]
  for (const [at, byte] of beginning.entries()) if (byte === 0) zeros[at % 2]!++
  const [even, odd] = zeros as [number, number]
  const many = beginning.length / 2 * 0.6
  return odd > many && even === 0 ? 'utf-16le' : even > many && odd === 0 ? 'utf-16be' : 'utf-8'
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
