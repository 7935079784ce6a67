import { plainText } from '~~/core/calls/text'
import { type CustomerKnown, customerSystemAnswer } from '~~/shared/customers'
import { t } from '../language'

/** Milliseconds. An answer that comes later than this is of no use before a call is answered. */
const patience = 800
/** After so many failures one after the other it is not asked for a while. */
const mostFailures = 3
const rest = 30_000
/** Bytes. */
const largestAnswer = 64 * 1024
const mostLines = 12

export interface CustomerSystem {
  /** What it is called; where numbers are looked up; the token with which we are known there. */
  name: string
  address: string
  token: string
}

/**
 * Looks callers up in the house's own customer system (docs/customer-lookup.json). It never holds a call up: what is late, wrong or down is said in a sentence,
 * and it is left in peace for a while when it fails again and again.
 */
export class Customers {
  private failures = 0
  private restsUntil = 0
  /** Milliseconds since 1970; null: never. */
  lastSuccess: number | null = null
  lastProblem: string | null = null

  constructor(private readonly system: CustomerSystem | null, private readonly now: () => number = Date.now) {}

  get name(): string {
    return this.system?.name ?? ''
  }

  get address(): string {
    return this.system?.address ?? ''
  }

  get isWell(): boolean {
    return this.failures === 0
  }

  /** @param number E.164; @param again asks also while it is left in peace */
  async look(number: string, again = false): Promise<CustomerKnown> {
    const { system } = this
    if (!system) return { source: '', problem: null, customer: null }
    if (!again && this.now() < this.restsUntil)
      return { source: system.name, problem: `${system.name} is not asked for a moment: it has failed ${mostFailures} times.`, customer: null }
    try {
      const { customer } = await ask(system, number)
      this.failures = 0
      this.restsUntil = 0
      this.lastSuccess = this.now()
      return {
        source: system.name, problem: null,
        customer: customer && {
          name: plainText(customer.name, 100), reference: plainText(customer.reference, 60),
          lines: customer.lines.slice(0, mostLines).map(({ label, text }) => ({ label: plainText(label, 60), text: plainText(text, 200) })),
          link: linkOf(customer.link),
        },
      }
    }
    catch (error) {
      const problem = `${system.name} ${problemOf(error)}`
      if (++this.failures >= mostFailures) this.restsUntil = this.now() + rest
      this.lastProblem = problem
      return { source: system.name, problem, customer: null }
    }
  }
}

async function ask({ address, token }: CustomerSystem, number: string) {
  const url = new URL(address)
  url.searchParams.set('number', number)
  const answer = await fetch(url, {
    headers: { accept: 'application/json', ...token && { authorization: `Bearer ${token}` } }, redirect: 'error', signal: AbortSignal.timeout(patience),
  })
  if (!answer.ok) {
    await answer.body?.cancel()
    throw new Answered(t('answers.answersWithStatus', { status: answer.status }))
  }
  const parts: Uint8Array[] = []
  let size = 0
  for await (const part of answer.body as unknown as AsyncIterable<Uint8Array>) {
    size += part.length
    if (size > largestAnswer) throw new Answered(t('answers.answersTooMuch'))
    parts.push(part)
  }
  try {
    return customerSystemAnswer.validateSync(JSON.parse(Buffer.concat(parts).toString('utf8')), { strict: false, stripUnknown: true })
  }
  catch {
    throw new Answered(t('answers.answersNonsense'))
  }
}

/** It has answered, and the answer is of no use. The message goes on from its name. */
class Answered extends Error {}

function problemOf(error: unknown): string {
  if (error instanceof Answered) return error.message
  return error instanceof Error && (error.name === 'TimeoutError' || error.name === 'AbortError') ? t('answers.didNotAnswer') : t('answers.cantBeReached')
}

/** A link that a browser may open: never a script, and none that looks as if it led elsewhere. */
export function linkOf(link: string | null): string | null {
  if (link === null || !URL.canParse(link) || /[\p{Cc}\p{Cf}]/u.test(link)) return null
  const url = new URL(link)
  // A name before the @ is not where it leads.
  return (url.protocol === 'https:' || url.protocol === 'http:') && url.username === '' && url.password === '' ? url.href : null
}
