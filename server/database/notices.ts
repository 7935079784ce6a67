import { Client } from 'pg'
import { limits } from './orm'

const pause = 1_000

/** Hears what other servers on the same database have changed (LISTEN and NOTIFY), and says when it may have missed something. */
export class Notices {
  private readonly hearers = new Map<string, ((payload: string) => void)[]>()
  private readonly returning: (() => void)[] = []
  private closed = false
  private client: Client | null = null

  constructor(private readonly databaseUrl: string) {}

  /** Calls back with what is said on a channel. All channels are named before `listen`. */
  on(channel: string, hear: (payload: string) => void): void {
    this.hearers.set(channel, [...this.hearers.get(channel) ?? [], hear])
  }

  /** Calls back whenever listening begins, at first and after every loss. */
  onListening(come: () => void): void {
    this.returning.push(come)
  }

  async close(): Promise<void> {
    this.closed = true
    await this.client?.end().catch(() => {})
  }

  async listen(): Promise<void> {
    while (!this.closed) {
      const client = new Client({ connectionString: this.databaseUrl, connectionTimeoutMillis: limits.connecting, keepAlive: true })
      this.client = client
      const ended = new Promise<void>((resolve) => {
        client.once('end', resolve)
        client.on('error', () => resolve())
      })
      try {
        await client.connect()
        client.on('notification', ({ channel, payload }) => this.hearers.get(channel)?.forEach(hear => hear(payload ?? '')))
        for (const channel of this.hearers.keys()) await client.query(`listen "${channel}"`)
        for (const come of this.returning) come()
        await ended
      }
      catch {
        // The database is away; the journal says so. Listening begins again when it is back.
      }
      await client.end().catch(() => {})
      if (!this.closed) await new Promise(resolve => setTimeout(resolve, pause))
    }
  }
}
