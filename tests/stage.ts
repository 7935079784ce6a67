import { randomUUID } from 'node:crypto'
import { connect, type Socket } from 'node:net'
import { type APIRequestContext, test as base, type Browser, type BrowserContext, expect, type Page, request as apiRequests } from '@playwright/test'
import { Client } from 'pg'
import { evolve, evolveAll } from '../core/calls/evolve'
import { stateOf } from '../core/calls/snapshot'
import type { ExchangeState, Request } from '../core/calls/model'
import { demoPassword, createStack } from '../scripts/stack.mjs'
import { prepareDatabase } from '../scripts/database.mjs'
import { type FromExchange, linkVersion } from '../shared/link'
import { LineReader } from '../shared/lines'
import { expectNoKeys, watchForKeys } from './shown-keys'

/** Plays everybody who is not at a console: callers outside and colleagues, by asking the exchange as the network and phones do. */
export class Cast {
  private readonly waiting = new Map<string, (message: FromExchange & { type: 'reply' }) => void>()
  state!: ExchangeState
  private here: string[] = []

  private socket!: Socket
  private home = false

  private constructor(private readonly port: number, private readonly token: string) {}

  static async join(port: number, token: string): Promise<Cast> {
    const cast = new Cast(port, token)
    await cast.enter()
    return cast
  }

  /** A test that keeps this process busy for seconds is taken for gone by the exchange: whoever plays comes back. */
  private async enter(): Promise<void> {
    const socket = connect(this.port, '127.0.0.1')
    this.socket = socket
    const welcome = new Promise<void>((resolve, reject) => {
      socket.once('error', reject)
      const lines = new LineReader(1e9, (line) => {
        const message = JSON.parse(line) as FromExchange
        if (message.type === 'error' && message.id) throw new Error(message.message)
        if (message.type === 'reply') this.waiting.get(message.id)?.(message)
        if (message.type === 'event') this.state = evolve(this.state, message.event)
        if (message.type !== 'welcome') return
        this.state = evolveAll(stateOf(message.state), message.events)
        resolve()
      }, () => {})
      socket.on('data', chunk => lines.take(chunk))
    })
    socket.on('error', () => {})
    this.send({ type: 'hello', version: linkVersion, token: this.token })
    const beat = setInterval(() => this.present(this.here), 2_000)
    socket.once('close', () => {
      clearInterval(beat)
      if (!this.home) setTimeout(() => this.home || this.enter().catch(() => {}), 250)
    })
    await welcome
  }

  private send(message: object): void {
    this.socket.write(`${JSON.stringify(message)}\n`)
  }

  /** Operators who have a console open that no browser shows. */
  present(devices: string[]): void {
    this.here = devices
    this.send({ type: 'ping', present: devices })
  }

  /** Asks for something that must be granted: a test that is refused what it needs says so there, not lines later. */
  async ask(request: Request): Promise<FromExchange & { type: 'reply' }> {
    const reply = await this.attempt(request)
    if (reply.refusal) throw new Error(`Refused: ${JSON.stringify(request)}: ${JSON.stringify(reply.refusal)}`)
    return reply
  }

  /** Asks for something that may be refused. */
  attempt(request: Request): Promise<FromExchange & { type: 'reply' }> {
    const id = randomUUID()
    const answer = new Promise<FromExchange & { type: 'reply' }>(resolve => this.waiting.set(id, resolve))
    this.send({ type: 'request', id, request })
    return answer
  }

  /** Somebody outside dials one of our numbers. */
  async ring(name: string | null, options: { from?: string | null, to?: string, trunk?: 'east' | 'west' } = {}): Promise<string> {
    const { call } = await this.ask({
      service: 'offerCall',
      trunk: options.trunk ?? 'east',
      party: { number: options.from === undefined ? '+447700900123' : options.from, name },
      number: options.to ?? '+441632960000',
    })
    return call!
  }

  /** Moves an invented clock on by milliseconds. */
  advance(by: number): void {
    this.send({ type: 'advance', by })
  }

  answer(device: string, call: string) {
    return this.ask({ service: 'answerCall', device, call })
  }

  /** The caller of a call hangs up. */
  async hangUp(call: string): Promise<void> {
    const device = this.state.calls.get(call)?.calling
    if (device) await this.attempt({ service: 'clearConnection', device, call })
  }

  /** Somebody of ours hangs up or declines. */
  async leave(device: string, call: string): Promise<void> {
    await this.attempt({ service: 'clearConnection', device, call })
  }

  /** A click on Answer is on its way through the server: whoever goes on from here waits until it has arrived. */
  async talks(device: string, call: string): Promise<void> {
    await expect.poll(() => this.state.calls.get(call)?.connections.find(connection => connection.device === device)?.state).toBe('connected')
  }

  /** The call that rings at a device, once it does. */
  async ringingAt(device: string): Promise<string> {
    await expect.poll(() => this.ringing(device)).toBeDefined()
    return this.ringing(device)!
  }

  private ringing(device: string): string | undefined {
    return [...this.state.calls.values()].find(call => call.connections.some(connection => connection.device === device && connection.state === 'alerting'))?.id
  }

  /** The caller says something. */
  async say(call: string, text: string): Promise<void> {
    await this.ask({ service: 'sendUserInformation', device: this.state.calls.get(call)!.calling, call, text })
  }

  async clearTheStage(): Promise<void> {
    for (const [id, call] of this.state.calls.entries()) {
      for (const { device } of call.connections) await this.attempt({ service: 'clearConnection', device, call: id })
    }
  }

  goHome(): void {
    this.home = true
    this.socket.destroy()
  }
}

export interface Stage {
  stack: ReturnType<typeof createStack>
  url: string
  /** The database as the server sees it, and as whoever keeps it. */
  serverUrl: string
  ownerUrl: string
  cast: Cast
  /** Runs SQL on the stage's own database. */
  sql<Row extends object>(text: string): Promise<Row[]>
  /** Runs SQL beside it, as whoever keeps the database. */
  outside(text: string): Promise<unknown>
  open(browser: Browser, who: string): Promise<Page>
}

export interface StageOptions {
  exchangeArgs?: string[]
  /** Times of the company that differ from the demo's. */
  settings?: Partial<Record<'transferRecall' | 'noAnswer' | 'parkRecall' | 'absence', number>>
  demo?: boolean
  /** A house of its own: nothing of the demo, neither its data nor its exchange nor what only the demo allows. */
  bare?: boolean
  /** A company of another size than the demo's. */
  people?: number
  /** What else the server is told. */
  serverEnv?: Record<string, string>
  admin?: string
  /** With the sound process: people can be heard. */
  sound?: boolean
  /** Where telephones of the network register. */
  sip?: string
}

/** A stage of its own: exchange, server and database that nobody else uses. */
export async function buildStage(options: StageOptions = {}): Promise<{ stage: Stage, strike: () => Promise<void> }> {
  const database = `stage_${randomUUID().replaceAll('-', '')}`
  const admin = options.admin ?? process.env.TEST_DATABASE!
  const { bare = false, demo = !bare, people } = options
  const copied = !options.admin && demo && people === undefined
  const serverUrl = await prepareDatabase(admin, database, { demo, people, ...(copied && { template: process.env.TEST_TEMPLATE }) })
  const databaseUrl = admin.replace(/\/postgres$/, `/${database}`)
  for (const [name, ms] of Object.entries(options.settings ?? {}))
    await withClient(databaseUrl, client => client.query(`update settings set "${name.replace(/[A-Z]/g, letter => `_${letter.toLowerCase()}`)}" = ${ms}`))
  const stack = createStack({
    databaseUrl: serverUrl,
    ...bare ? { exchange: '.output/exchange/main.mjs' } : { exchangeArgs: ['--pace', 'still', ...(options.exchangeArgs ?? [])] },
    ...options.sound && { sound: '.output/sound/main.mjs' },
    sip: options.sip,
    serverEnv: { ...bare && { NUXT_DEMO: 'false' }, ...options.serverEnv },
    output: process.env.STAGE_OUTPUT ? 'inherit' : 'ignore',
  })
  await stack.start()
  const opened: Page[] = []
  const signedIn: SignedIn = new Map()
  const stage: Stage = {
    stack,
    url: stack.url,
    serverUrl,
    ownerUrl: databaseUrl,
    cast: await Cast.join(stack.exchangePort, stack.token),
    sql: <Row extends object>(text: string) => withClient(databaseUrl, async client => (await client.query<Row>(text)).rows),
    outside: text => withClient(admin, client => client.query(text)),
    open: async (browser, who) => {
      const page = await openConsole(browser, stack.url, who, signedIn)
      opened.push(page)
      return page
    },
  }
  const strike = async () => {
    // A console that is left open goes on looking for its server.
    for (const page of opened) await page.context().close()
    stage.cast.goHome()
    await stack.stop()
  }
  return { stage, strike }
}

export async function withClient<T>(url: string, work: (client: Client) => Promise<T>): Promise<T> {
  const client = new Client({ connectionString: url })
  await client.connect()
  try {
    return await work(client)
  }
  finally {
    await client.end()
  }
}

/** Goes through the sign-in page, to whatever comes behind it. */
export async function enter(page: Page, url: string, who: string): Promise<void> {
  await watchForKeys(page)
  await page.goto(`${url}/sign-in`)
  await page.getByLabel('Sign-in name').fill(who)
  await page.getByLabel('Password').fill(demoPassword)
  await page.getByRole('button', { name: 'Sign in' }).click()
}

export async function signIn(page: Page, url: string, who: string): Promise<void> {
  await enter(page, url, who)
  await expect(page.getByRole('combobox', { name: 'Who is it for?' })).toBeFocused()
}

/** The cookies of whoever has signed in at a stage: they need not type their password for every test. */
type SignedIn = Map<string, Awaited<ReturnType<BrowserContext['storageState']>>>

async function openConsole(browser: Browser, url: string, who: string, signedIn: SignedIn): Promise<Page> {
  const known = signedIn.get(who)
  const context = await browser.newContext({ baseURL: url, viewport: { width: 1280, height: 800 }, ...(known && { storageState: { ...known, origins: [] } }) })
  const page = await context.newPage()
  if (known) {
    await watchForKeys(page)
    await page.goto(url)
  }
  const field = page.getByRole('combobox', { name: 'Who is it for?' })
  // A test may have ended the session.
  if (known) await field.or(page.getByLabel('Password')).waitFor()
  if (known && await field.isVisible()) {
    await expect(field).toBeFocused()
    return page
  }
  await signIn(page, url, who)
  signedIn.set(who, await context.storageState())
  return page
}

/** Waits until nobody is at a console any more, or has just left one, in an earlier test. */
export async function allIsQuiet({ cast }: Stage): Promise<void> {
  await expect.poll(() => [...cast.state.agents.values()].some(({ attended, leavesAt }) => attended || leavesAt !== null), { timeout: 60_000 }).toBe(false)
}

/** Ribbons of one stretch of the track, by what is written on them. */
export function ribbon(page: Page, stretch: 'Arriving' | 'In hand' | 'Passed on', text: string) {
  const ribbons = page.getByRole('region', { name: stretch }).getByRole('listitem').filter({ hasText: text })
  // An enquiry names the caller whom it is for: that is their call only where the words ask for it.
  return text.startsWith('Asking for') ? ribbons : ribbons.filter({ hasNotText: 'Asking for' })
}

/** Names somebody in the field and waits until they are the first answer. */
export async function name(console: Page, words: string): Promise<void> {
  await console.keyboard.type(words)
  await expect(console.getByRole('option').first()).toContainText(words)
}

/** What another program has to know at the shared stage. */
export const programToken = 'told in advance'

/** Tests of one worker share a stage; each ends its own calls. */
export const test = base.extend<{ console: Page, words: null }, { stage: Stage }>({
  words: [async ({}, use) => { // eslint-disable-line no-empty-pattern
    await use(null)
    expectNoKeys()
  }, { auto: true }],
  stage: [async ({}, use) => { // eslint-disable-line no-empty-pattern
    const { stage, strike } = await buildStage({
      settings: { transferRecall: 7_000, noAnswer: 9_000, parkRecall: 12_000, absence: 4_000 },
      serverEnv: { NUXT_OCCUPANCY_TOKEN: programToken },
    })
    await use(stage)
    await strike()
  }, { scope: 'worker', timeout: 90_000 }],
  console: async ({ browser, stage }, use) => {
    // Whatever an earlier test has set of the console is as designed again.
    await stage.sql('delete from preferences')
    const page = await stage.open(browser, 'ines')
    await use(page)
    await page.context().close()
    await stage.cast.clearTheStage()
  },
})

/** Tests that kill, freeze or lock out: each has a stage to itself. */
export function alone(options: Parameters<typeof buildStage>[0] = {}) {
  return base.extend<{ own: Stage }>({
    own: async ({}, use) => { // eslint-disable-line no-empty-pattern
      const { stage, strike } = await buildStage(options)
      await use(stage)
      await strike()
    },
  })
}

export { expect }

/** Asks the server as somebody who is signed in, without a browser. */
export async function signedIn(url: string, signIn: string): Promise<APIRequestContext> {
  const context = await apiRequests.newContext({ baseURL: url })
  expect((await context.post('/api/session', { data: { signIn, password: demoPassword } })).status()).toBe(200)
  return context
}
