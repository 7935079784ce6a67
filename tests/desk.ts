import { createTestingPinia } from '@pinia/testing'
import { FetchError } from 'ofetch'
import { disposePinia, type Pinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, vi } from 'vitest'
import { nextTick } from 'vue'
import { evolveAll, numbered } from '~~/core/calls/evolve'
import { decide } from '~~/core/calls/decide'
import type { Call, Party, Request } from '~~/core/calls/model'
import { sentenceOf, Tryout } from '~~/core/calls/tryout'
import type { Company } from '~~/core/company/company'
import { rightsAtFirst } from '~~/shared/rights'
import type { Role } from '~~/shared/roles'
import { useDesk } from '~/stores/desk'
import { type Happening, useLive } from '~/stores/live'
import { useSession } from '~/stores/session'

/** A desk in a test: stores on a picture that is made by the call model itself; the server behind them is a function. */

export const server = vi.fn<(url: string, options?: { method?: string, body?: Record<string, unknown>, query?: Record<string, unknown> }) => Promise<unknown>>()
/** What stands beside the calls, and is no matter where a test says nothing of it. */
const nothingKnown: Record<string, object> = {
  '/api/contacts': { latest: 0, changed: [], removed: [] }, '/api/callers': { place: '', kind: '', likely: [], missed: 0, messages: [] },
  '/api/whereabouts': { engagements: [], turns: [], occupants: [] }, '/api/notes': [], '/api/messages/waiting': [],
  '/api/customers': { source: '', problem: null, customer: null }, '/api/figures/today': { places: {} },
}
/** What a test lets the server say at an address. */
export const says = new Map<string, (options?: Parameters<typeof server>[1]) => unknown>()

/** The exchange of this test. */
export const tried: { exchange: Tryout } = { exchange: undefined! }

export function refusal(statusCode: number, sentence: string): FetchError {
  return Object.assign(new FetchError(sentence), { statusCode, data: { message: sentence, data: { sentence } } })
}

/** A server that asks the exchange, and whose feed has come before its answer. */
export async function carryOut(_url: string, options?: { body?: Record<string, unknown> }): Promise<unknown> {
  const { id: _id, ...request } = options!.body!
  const { exchange } = tried
  const decision = decide(exchange.state, request as unknown as Request, exchange.now)
  if ('refusal' in decision) throw refusal(409, sentenceOf(decision.refusal)!)
  happen(decision.events)
  return { seq: exchange.state.seq }
}

/** The feed brings events. */
function happen(events: Parameters<typeof numbered>[1]): void {
  const { exchange } = tried
  const happenings = numbered(exchange.state, events, exchange.now).map((event): Happening => {
    const before = 'call' in event ? exchange.state.calls.get(event.call) : undefined
    exchange.state = evolveAll(exchange.state, [event])
    return { event, before, state: exchange.state }
  })
  useLive().state = exchange.state
  useDesk().follow(happenings)
}

/** Somebody else does something. */
export function others(request: Request): void {
  const decision = decide(tried.exchange.state, request, tried.exchange.now)
  if ('refusal' in decision) throw new Error(sentenceOf(decision.refusal))
  happen(decision.events)
}

/** A call from outside that an operator has answered. */
export function inHand(device = 't2100', party?: Party): Call {
  const call = tried.exchange.offer(undefined, party)
  useLive().state = tried.exchange.state
  others({ service: 'answerCall', device, call })
  return tried.exchange.call(call)
}

export function enters(role: Role, device: string | null = 't2100'): void {
  const rights = role === 'staff' ? [] : rightsAtFirst[role]
  useSession().me = { signIn: role, name: role, role, rights, device, extension: device?.slice(1) ?? null }
}

/** Lets everything that was asked be answered. */
export async function settled(): Promise<void> {
  for (let turn = 0; turn < 20; turn++) await Promise.resolve()
  await nextTick()
}

/** Every test of this file begins at Ines' desk, an operator, with nothing under way. */
export function beginAtADesk(company: () => Company): void {
  let pinia: Pinia
  vi.stubGlobal('$fetch', (...asked: Parameters<typeof server>) => {
    const [url, options] = asked
    const said = says.get(url)
    if (said) return Promise.resolve().then(() => said(options))
    // Whom somebody has chosen is kept a moment later, in the middle of whatever test comes then.
    if (options?.body && 'chosen' in options.body) return Promise.resolve({ kept: true })
    return nothingKnown[url] ? Promise.resolve(nothingKnown[url]) : server(...asked)
  })
  // What an earlier test's stores still had to do would be done in the next one.
  afterEach(() => {
    disposePinia(pinia)
    says.clear()
  })
  beforeEach(() => {
    pinia = createTestingPinia({ createSpy: vi.fn, stubActions: false })
    setActivePinia(pinia)
    tried.exchange = new Tryout(company())
    server.mockReset().mockImplementation(carryOut)
    const live = useLive()
    live.state = tried.exchange.state
    live.connected = true
    live.exchange = true
    enters('operator')
  })
}
