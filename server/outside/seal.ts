import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto'

/** Seals what the database keeps and nobody reads there (AES-256-GCM, the key derived from the server's own secret by RFC 5869). */
export class Seal {
  private readonly key: Buffer

  /** @param purpose what is sealed by one can't be opened as another */
  constructor(secret: string, purpose: string) {
    this.key = Buffer.from(hkdfSync('sha256', secret, '', purpose, 32))
  }

  close(text: string): string {
    if (text === '') return ''
    const nonce = randomBytes(12)
    const cipher = createCipheriv('aes-256-gcm', this.key, nonce)
    const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
    return Buffer.concat([nonce, cipher.getAuthTag(), body]).toString('base64')
  }

  /** Null when it was sealed with another secret. */
  open(sealed: string): string | null {
    if (sealed === '') return ''
    const bytes = Buffer.from(sealed, 'base64')
    try {
      const cipher = createDecipheriv('aes-256-gcm', this.key, bytes.subarray(0, 12)).setAuthTag(bytes.subarray(12, 28))
      return Buffer.concat([cipher.update(bytes.subarray(28)), cipher.final()]).toString('utf8')
    }
    catch {
      return null
    }
  }
}
