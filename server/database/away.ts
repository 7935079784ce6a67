import { AsyncLocalStorage } from 'node:async_hooks'
import type { EventSubscriber } from '@mikro-orm/postgresql'
import { createError, isError } from 'h3'
import { t } from '../language'

/** Who asks waits this long for the database (milliseconds) and is told then; for much that is done as one, longer. */
const patience = 2_500
export const muchAtOnce = 60_000

/** Somebody waits for what is asked of the database; `late`: they have been told that nothing was changed. */
interface Waiting { state: 'working' | 'committing' | 'late' }
const waiting = new AsyncLocalStorage<Waiting>()

/**
 * Answers with a sentence when the database does not carry out a query in time; calls go on meanwhile. What was to be changed in a transaction is not changed
 * later either: whoever tries again does not do it twice.
 * @param query what needs the database
 * @throws 503: nothing was changed; 504: the database has been told to keep it and has not said whether it has
 */
export async function fromDatabase<T>(query: () => Promise<T>, longest = patience): Promise<T> {
  const ask: Waiting = { state: 'working' }
  let late: NodeJS.Timeout | undefined
  try {
    return await Promise.race([waiting.run(ask, query), new Promise<never>((_, reject) => {
      late = setTimeout(() => reject(new Error('the database is late')), longest)
    })])
  }
  catch (cause) {
    if (isError(cause)) throw cause
    if (ask.state === 'committing') {
      throw createError({ statusCode: 504, message: t('answers.notKnownWhetherKept') })
    }
    ask.state = 'late'
    throw createError({
      statusCode: 503, message: t('answers.databaseIsAway'),
    })
  }
  finally {
    clearTimeout(late)
  }
}

/** @throws when whoever waits for this has been told already that nothing was changed: it need not be begun */
export function refuseLate(): void {
  if (waiting.getStore()?.state === 'late') throw new Error('given up: whoever asked has been told that nothing was changed')
}

/** Nothing is kept of which somebody has been told that it was not. */
export class OnlyInTime implements EventSubscriber {
  async beforeTransactionCommit(): Promise<void> {
    refuseLate()
    const ask = waiting.getStore()
    if (ask) ask.state = 'committing'
  }
}

/**
 * What went wrong with the database, for the log: never SQL, never what was to be written.
 * @returns for example "SQLSTATE 22P05" or "ECONNREFUSED"
 */
export function briefly(error: unknown): string {
  const code = sqlState(error)
  if (code) return `SQLSTATE ${code}`
  const plain = (error as { code?: unknown } | null)?.code
  return typeof plain === 'string' ? plain : 'no answer'
}

/** The five characters by which PostgreSQL says what is wrong (SQL:2023, Appendix A of PostgreSQL's manual); null for anything else. */
function sqlState(error: unknown): string | null {
  const code = (error as { code?: unknown } | null)?.code
  return typeof code === 'string' && /^[0-9A-Z]{5}$/.test(code) ? code : null
}

/** Classes of SQLSTATE that speak of what was to be written: cardinality, data, constraints, a trigger's own refusal, limits. Trying again is of no use. */
const ofContent = ['21', '22', '23', 'P0', '54']

/** True when the database is there and will not have what was to be written; false when it may have it later. */
export function refusesContent(error: unknown): boolean {
  return ofContent.includes(sqlState(error)?.slice(0, 2) ?? '')
}
