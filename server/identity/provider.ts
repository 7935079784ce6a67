import type { MikroORM } from '@mikro-orm/postgresql'
import { createRemoteJWKSet, customFetch as fetchKeys, errors as joseErrors, jwtVerify } from 'jose'
import * as oidc from 'openid-client'
import { plainText } from '~~/core/calls/text'
import type { IdentitySettings, IdentityWanted } from '~~/shared/identity'
import { recordChanges } from '../accounts/changes'
import { fromDatabase } from '../database/away'
import { fetchOutside, isWebAddress, Unfetched } from '../outside/ask'
import { Seal } from '../outside/seal'
import { wrongInput } from '../validation/read'
import { t } from '../language'

/** The provider could not be asked, or its word does not hold. The message is a sentence. */
export class NotProven extends Error {
  constructor(readonly why: 'away' | 'refused' | 'unproven' | 'late', sentence: string) {
    super(sentence)
  }
}

/** Milliseconds, bytes. */
const longestAsking = 8_000
const largest = 1024 * 1024
const keptFor = 10 * 60_000
const longestSigningIn = 10 * 60_000
/** What a logout token may be off by a clock that is wrong, seconds. */
const tolerance = 60
const endedEvent = 'http://schemas.openid.net/event/backchannel-logout'

interface Row { settings: Omit<IdentityWanted, 'secret'>, secret: string, failure: string | null, readAt: number | null }
/** What a browser keeps, sealed, while its person is at the provider. */
interface Begun { state: string, nonce: string, verifier: string, at: number }
/** Whom the provider says that somebody is. */
export interface Proven { settings: Row['settings'], subject: string, session: string | null, idToken: string, claims: Record<string, unknown> }

/** The house's own identity provider, by OpenID Connect: code flow with PKCE (RFC 7636), discovery, logout from both sides. */
export class IdentityProvider {
  private readonly seal: Seal
  private readonly fetch: ReturnType<typeof fetchOutside>
  private known: { of: string, until: number, config: Promise<oidc.Configuration> } | null = null

  constructor(private readonly orm: MikroORM, private readonly options: { sealedWith: string, allowed: readonly string[] }) {
    this.seal = new Seal(options.sealedWith, 'identity provider')
    this.fetch = fetchOutside(options.allowed, longestAsking, largest)
  }

  async settings(): Promise<IdentitySettings> {
    const row = await this.row()
    return row ? { settings: row.settings, readAt: row.readAt, failure: row.failure } : { settings: null, readAt: null, failure: null }
  }

  /**
   * Keeps a provider, once it has answered.
   * @param by the sign-in name of whoever keeps it
   * @throws 422
   */
  async keep(by: string, { secret, ...settings }: IdentityWanted): Promise<IdentitySettings> {
    const before = await fromDatabase(() => this.row())
    const isSame = before?.settings.issuer === settings.issuer && before.settings.clientId === settings.clientId
    if (secret === '' && !isSame) throw wrongInput('secret', t('answers.secretIsMissing'))
    if (!settings.scopes.split(' ').includes('openid')) throw wrongInput('scopes', t('answers.scopesWithoutOpenid'))
    const row = { settings, secret: secret === '' ? before!.secret : this.seal.close(secret), failure: null, readAt: null }
    await this.configOf(row).catch((error: unknown) => {
      throw wrongInput('issuer', sentenceOf(error).message)
    })
    await fromDatabase(() => this.orm.em.fork().transactional(async (tx) => {
      await tx.execute(
        `insert into identity_provider (id, settings, secret, read_at) values (1, ?::jsonb, ?, now())
          on conflict (id) do update set settings = excluded.settings, secret = excluded.secret, read_at = now(), failure = null`,
        [JSON.stringify(row.settings), row.secret],
      )
      await recordChanges(tx, by, [{ account: null, what: 'identityProvider', before: shown(before?.settings), after: shown(settings) }])
    }))
    return fromDatabase(() => this.settings())
  }

  /** Nobody signs in by it any more, and whoever has is signed out. */
  async leave(by: string): Promise<void> {
    await this.orm.em.fork().transactional(async (tx) => {
      const [row] = await tx.execute<{ settings: Row['settings'] }[]>('delete from identity_provider returning settings')
      if (row) await recordChanges(tx, by, [{ account: null, what: 'identityProvider', before: shown(row.settings), after: '' }])
    })
  }

  /** Asks it who it is, and remembers how that went. */
  async tryNow(): Promise<void> {
    const row = await fromDatabase(() => this.row())
    if (row) await this.asked(row)
  }

  /**
   * Somebody wants to sign in.
   * @returns where their browser goes, and what it keeps meanwhile
   * @throws NotProven; 404 when there is no provider
   */
  async begin(): Promise<{ address: string, kept: string }> {
    const row = await this.needed()
    const config = await this.asked(row)
    const begun: Begun = { state: oidc.randomState(), nonce: oidc.randomNonce(), verifier: oidc.randomPKCECodeVerifier(), at: Date.now() }
    const { href } = oidc.buildAuthorizationUrl(config, {
      redirect_uri: backAt(row), scope: row.settings.scopes, state: begun.state, nonce: begun.nonce,
      code_challenge: await oidc.calculatePKCECodeChallenge(begun.verifier), code_challenge_method: 'S256',
    })
    return { address: href, kept: this.seal.close(JSON.stringify(begun)) }
  }

  /**
   * They have come back.
   * @param query what the provider has sent the browser back with; @param kept what the browser kept meanwhile
   * @throws NotProven; 404 when there is no provider
   */
  async finish(query: string, kept: string): Promise<Proven> {
    const row = await this.needed()
    const begun = JSON.parse(this.seal.open(kept) || 'null') as Begun | null
    if (!begun || Date.now() - begun.at > longestSigningIn)
      throw new NotProven('late', t('answers.tookTooLong'))
    const config = await this.configOf(row).catch(rethrow)
    try {
      const back = new URL(backAt(row))
      back.search = query
      const tokens = await oidc.authorizationCodeGrant(config, back, {
        pkceCodeVerifier: begun.verifier, expectedState: begun.state, expectedNonce: begun.nonce, idTokenExpected: true,
      })
      const own = tokens.claims()!
      // Some providers say groups and names there alone.
      const more = config.serverMetadata().userinfo_endpoint ? await oidc.fetchUserInfo(config, tokens.access_token, own.sub) : {}
      return {
        settings: row.settings, subject: own.sub, session: typeof own.sid === 'string' ? own.sid : null, idToken: this.seal.close(tokens.id_token!),
        claims: { ...more, ...own },
      }
    }
    catch (error) {
      throw sentenceOf(error)
    }
  }

  /** Where a browser goes to end its session at the provider as well; null when that can't be said now. */
  async endedAt(proof: string): Promise<string | null> {
    const row = await this.row()
    const idToken = row && this.seal.open(proof)
    if (!idToken) return null
    const config = await this.configOf(row).catch(() => null)
    if (!config?.serverMetadata().end_session_endpoint) return null
    return oidc.buildEndSessionUrl(config, { post_logout_redirect_uri: `${row.settings.address}/sign-in`, id_token_hint: idToken }).href
  }

  /**
   * The provider says that a session there has ended (OpenID Connect Back-Channel Logout 1.0, 2.6).
   * @returns whose, or which
   * @throws NotProven; 404 when there is no provider
   */
  async ended(token: string): Promise<{ subject: string | null, session: string | null }> {
    const row = await this.needed()
    const { issuer, jwks_uri: keys } = (await this.configOf(row).catch(rethrow)).serverMetadata()
    if (keys === undefined) throw new NotProven('unproven', t('answers.providerNamesNoKeys'))
    try {
      const { payload } = await jwtVerify(token, createRemoteJWKSet(new URL(keys), { [fetchKeys]: this.fetch }), {
        issuer, audience: row.settings.clientId, clockTolerance: tolerance, maxTokenAge: longestSigningIn / 1_000,
      })
      const { events, nonce, sid, sub } = payload
      const names = typeof events === 'object' && events !== null && Object.hasOwn(events, endedEvent)
      const [subject, session] = [typeof sub === 'string' ? sub : null, typeof sid === 'string' ? sid : null]
      if (!names || nonce !== undefined || (subject === null && session === null)) throw new NotProven('unproven', t('answers.noLogoutToken'))
      return { subject, session }
    }
    catch (error) {
      throw sentenceOf(error)
    }
  }

  /** Asks it anew who it is: whoever is about to go there, or tries it, hears at once that it is away. */
  private async asked(row: Row): Promise<oidc.Configuration> {
    this.known = null
    const config = await this.configOf(row).catch((error: unknown) => sentenceOf(error))
    const failure = config instanceof NotProven ? config.message : null
    // How it went is told to the administrator; should the database be away, that is not what anybody waits for.
    await this.orm.em.fork().execute(
      'update identity_provider set failure = ?, read_at = case when ?::text is null then now() else read_at end', [failure, failure],
    ).catch(() => {})
    if (config instanceof NotProven) throw config
    return config
  }

  /** What the provider says of itself, for a while. */
  private async configOf({ settings: { issuer, clientId }, secret: sealed }: Pick<Row, 'settings' | 'secret'>): Promise<oidc.Configuration> {
    const of = JSON.stringify([issuer, clientId, sealed])
    if (this.known?.of === of && this.known.until > Date.now()) return this.known.config
    const secret = this.seal.open(sealed)
    if (secret === null) throw new NotProven('away', t('answers.secretUnreadable'))
    if (!isWebAddress(issuer)) throw new NotProven('away', t('answers.issuerIsNoAddress'))
    const address = new URL(issuer)
    const isOurs = this.options.allowed.includes(address.origin)
    if (address.protocol !== 'https:' && !isOurs) throw new NotProven('away', t('answers.issuerWithoutTls'))
    const config = oidc.discovery(address, clientId, undefined, secret === '' ? oidc.None() : oidc.ClientSecretPost(secret), {
      [oidc.customFetch]: this.fetch, timeout: longestAsking / 1_000,
      // Without TLS only where whoever runs the server has allowed that very origin.
      execute: isOurs && address.protocol === 'http:' ? [oidc.allowInsecureRequests] : [],
    })
    this.known = { of, until: Date.now() + keptFor, config }
    config.catch(() => {
      if (this.known?.config === config) this.known = null
    })
    return config
  }

  private async needed(): Promise<Row> {
    const row = await fromDatabase(() => this.row())
    if (!row) throw createError({ statusCode: 404, message: t('answers.nobodySignsInByProvider') })
    return row
  }

  private async row(): Promise<Row | undefined> {
    const [row] = await this.orm.em.fork().execute<Row[]>(
      'select settings, secret, failure, (extract(epoch from read_at) * 1000)::float8 as "readAt" from identity_provider',
    )
    return row
  }
}

const backAt = ({ settings: { address } }: Row) => `${address}/signed-in`
const shown = (settings: Row['settings'] | undefined) => settings ? `${settings.name}: ${settings.issuer}` : ''

function rethrow(error: unknown): never {
  throw sentenceOf(error)
}

/** What was wrong, in a sentence; nothing of what was sent stands in it. */
function sentenceOf(error: unknown): NotProven {
  if (error instanceof NotProven) return error
  const cause = error instanceof Error ? error.cause : undefined
  for (const one of [error, cause]) if (one instanceof Unfetched) return new NotProven('away', t('answers.providerCantBeAsked', { why: one.message }))
  if (error instanceof oidc.AuthorizationResponseError)
    return new NotProven('refused', t('answers.providerLetNobodyIn', { code: plainText(error.error, 60) }))
  if (error instanceof oidc.ResponseBodyError)
    return new NotProven('unproven', t('answers.providerRefuses', { code: plainText(error.error, 60) }))
  if (error instanceof joseErrors.JOSEError) return new NotProven('unproven', t('answers.notTheProvidersWord', { code: plainText(error.code, 60) }))
  const code = (error as { code?: unknown } | null)?.code
  return new NotProven('unproven', t('answers.providersAnswerDoesNotHold', { code: plainText(typeof code === 'string' ? code : 'no OpenID Connect', 80) }))
}
