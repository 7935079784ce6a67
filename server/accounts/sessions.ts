import { randomBytes } from 'node:crypto'
import type { MikroORM } from '@mikro-orm/postgresql'
import type { Telephone } from '~~/core/company/company'
import type { OwnSession, SignedIn } from '~~/shared/people'
import { Account, type AccountRow, SessionEntity, type SessionRow } from '../database/entities'
import type { Notices } from '../database/notices'
import type { HouseRulesKeeper } from './house-rules'

const keptEvery = 60_000
const channel = 'accounts'

/** Which session of the identity provider a session was begun by. */
export interface ProviderSession { providerSubject: string, providerSession: string | null, idToken: string }

type Known = Pick<SessionRow, 'id' | 'signIn' | 'browser' | 'address'> & { createdAt: number, seenAt: number, kept: number }

/**
 * Who is signed in, as the database says. A session ends a while after the last request, when no console is open either, and in any case after a long day.
 * A role that changes, an account that is disabled, a session that is ended take effect at once, on every server.
 * Kept in memory as well, so that calls go on while the database is away.
 */
export class Sessions {
  private readonly accounts = new Map<string, AccountRow>()
  private readonly telephones = new Map<string, string | undefined>()
  private readonly known = new Map<string, Known>()
  private readonly sweeping: NodeJS.Timeout

  /** @param telephoneOf the telephone that stands for a person; @param onChange is told of sessions that are over, or whose person may do something else now */
  constructor(
    private readonly orm: MikroORM,
    notices: Notices,
    private readonly telephoneOf: (person: string) => Telephone | undefined,
    private readonly onChange: (sessions: string[]) => void,
    private readonly rules: Pick<HouseRulesKeeper, 'current' | 'rightsOf'>,
  ) {
    notices.on(channel, signIn => void this.reload(signIn).catch(() => {}))
    notices.onListening(() => void this.reloadAll().catch(() => {}))
    this.sweeping = setInterval(() => void this.sweep().catch(() => {}), keptEvery / 2)
  }

  close(): void {
    clearInterval(this.sweeping)
  }

  /**
   * Begins a session.
   * @param there by which session of the identity provider it was begun
   * @returns its secret name
   */
  async begin(signIn: string, browser: string, address: string, there?: ProviderSession): Promise<string> {
    const id = randomBytes(24).toString('base64url')
    const now = new Date()
    await this.orm.em.fork().insert(SessionEntity, { id, signIn, createdAt: now, seenAt: now, browser, address, ...there })
    await this.changed(signIn)
    return id
  }

  /** Who a session is of, or null when it has ended. Using it counts as being there. */
  async person(id: string | undefined): Promise<SignedIn | null> {
    if (!id) return null
    // Another server may have begun it a moment ago.
    if (!this.known.has(id)) await this.look(id)
    const session = this.known.get(id)
    const account = session && this.accounts.get(session.signIn)
    if (!session || !account || account.disabled || this.isOver(session, Date.now())) return null
    session.seenAt = Date.now()
    return this.signedIn(account)
  }

  /** What the interface may know of whoever has an account. */
  signedIn({ signIn, name, role, person }: AccountRow): SignedIn {
    const telephone = person ? this.telephoneOf(person) : undefined
    return { signIn, name, role, rights: this.rules.rightsOf(role), device: telephone?.id ?? null, extension: telephone?.number ?? null }
  }

  /** Roles may do something else now: everybody has to come again. */
  rightsChanged(): void {
    this.onChange([...this.known.keys()])
  }

  /** Whoever has got another telephone has to come again. */
  telephonesChanged(): void {
    const told = [...this.known.values()].filter(({ signIn }) => this.telephones.get(signIn) !== this.deviceOf(signIn)).map(({ id }) => id)
    for (const signIn of this.accounts.keys()) this.telephones.set(signIn, this.deviceOf(signIn))
    if (told.length > 0) this.onChange(told)
  }

  private deviceOf(signIn: string): string | undefined {
    const person = this.accounts.get(signIn)?.person
    return person ? this.telephoneOf(person)?.id : undefined
  }

  /** An open console counts as being there. */
  seen(id: string): void {
    const session = this.known.get(id)
    if (session) session.seenAt = Date.now()
  }

  /** The sessions of one person, the latest used first. Their secret names stay here: each is known by the beginning of its own. */
  of(signIn: string, own: string | null): OwnSession[] {
    const now = Date.now()
    return [...this.known.values()]
      .filter(session => session.signIn === signIn && !this.isOver(session, now))
      .sort((a, b) => b.seenAt - a.seenAt)
      .map(({ id, browser, address, createdAt, seenAt }) => ({ id: publicName(id), browser, address, createdAt, seenAt, own: id === own }))
  }

  /** Ends a session of somebody. False when there is none such. */
  async end(signIn: string, which: (session: { id: string, name: string }) => boolean): Promise<boolean> {
    const ids = [...this.known.values()]
      .filter(session => session.signIn === signIn && which({ id: session.id, name: publicName(session.id) }))
      .map(session => session.id)
    if (ids.length === 0) return false
    await this.orm.em.fork().nativeDelete(SessionEntity, { id: { $in: ids } })
    await this.changed(signIn)
    return true
  }

  /** Ends what was begun by one session of the identity provider, or by any of a subject; `null`: whichever. */
  async endThere(subject: string | null, session: string | null): Promise<void> {
    const ended = await this.orm.em.fork().execute<{ signIn: string }[]>(
      `delete from session where provider_subject is not null and provider_subject = coalesce(?, provider_subject)
        and (?::text is null or provider_session = ?) returning sign_in as "signIn"`, [subject, session, session],
    )
    for (const signIn of new Set(ended.map(({ signIn }) => signIn))) await this.changed(signIn)
  }

  /** What proves to the identity provider which session there began this one, sealed; null: none did. */
  async proofOf(id: string): Promise<string | null> {
    const [row] = await this.orm.em.fork().execute<{ proof: string | null }[]>('select id_token as proof from session where id = ?', [id])
    return row?.proof ?? null
  }

  /** Makes a change of an account or its sessions known here and on every other server. */
  async changed(signIn: string): Promise<void> {
    await this.reload(signIn)
    await this.orm.em.fork().execute(`select pg_notify('${channel}', ?)`, [signIn])
  }

  private isOver({ createdAt, seenAt }: Known, now: number): boolean {
    const { longestHours, idleMinutes } = this.rules.current
    return now - createdAt > longestHours * 60 * 60_000 || now - seenAt > idleMinutes * 60_000
  }

  private async look(id: string): Promise<void> {
    const row = await this.orm.em.fork().findOne(SessionEntity, { id })
    if (row) await this.reload(row.signIn)
  }

  private async reload(signIn: string): Promise<void> {
    const em = this.orm.em.fork()
    const [account, rows] = await Promise.all([em.findOne(Account, { signIn }), em.find(SessionEntity, { signIn })])
    const before = this.accounts.get(signIn)
    if (account) this.accounts.set(signIn, account)
    else this.accounts.delete(signIn)
    const changed = !account || account.disabled || !before || before.role !== account.role || before.person !== account.person
    this.telephones.set(signIn, this.deviceOf(signIn))
    const told = new Set<string>()
    for (const session of this.known.values()) {
      if (session.signIn !== signIn) continue
      const stays = rows.some(row => row.id === session.id)
      if (!stays || changed) told.add(session.id)
      if (!stays) this.known.delete(session.id)
    }
    for (const row of rows) {
      const seenAt = Math.max(row.seenAt.getTime(), this.known.get(row.id)?.seenAt ?? 0)
      this.known.set(row.id, {
        id: row.id,
        signIn,
        browser: row.browser,
        address: row.address,
        createdAt: row.createdAt.getTime(),
        seenAt,
        kept: row.seenAt.getTime(),
      })
    }
    if (told.size > 0) this.onChange([...told])
  }

  private async reloadAll(): Promise<void> {
    const em = this.orm.em.fork()
    const names = (await em.find(Account, {}, { fields: ['signIn'] })).map(account => account.signIn)
    for (const signIn of new Set([...names, ...this.accounts.keys()])) await this.reload(signIn)
  }

  /** Writes down who has been there, and ends what is over. */
  private async sweep(): Promise<void> {
    const now = Date.now()
    const em = this.orm.em.fork()
    for (const session of this.known.values()) {
      if (session.seenAt - session.kept < keptEvery) continue
      await em.execute('update session set seen_at = greatest(seen_at, ?) where id = ?', [new Date(session.seenAt), session.id])
      session.kept = session.seenAt
    }
    const over = [...this.known.values()].filter(session => this.isOver(session, now))
    for (const signIn of new Set(over.map(session => session.signIn))) {
      // Another server may have seen them.
      await this.reload(signIn)
      await this.end(signIn, ({ id }) => {
        const session = this.known.get(id)
        return session !== undefined && this.isOver(session, Date.now())
      })
    }
  }
}

function publicName(id: string): string {
  return id.slice(0, 8)
}
