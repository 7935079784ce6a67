import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible'
import { t } from '../language'

/**
 * How much of a server one session, or one address where nobody is signed in, may take: whoever asks without end, by whatever way, is refused for a while,
 * and everybody else goes on. Nobody who works with the console comes near it.
 */
const points = 2_000
const seconds = 10
const shares = new RateLimiterMemory({ points, duration: seconds })

/** What an answer takes: any, and one that is long or takes work, so that fifty of them in ten seconds are the most. */
export const costs = { any: 1, dear: 40 } as const

/** @returns null when it may be answered; else after how many seconds it may be asked again */
export async function takeShare(who: string, cost: number): Promise<number | null> {
  try {
    await shares.consume(who, cost)
    return null
  }
  catch (refusal) {
    if (!(refusal instanceof RateLimiterRes)) throw refusal
    return Math.max(1, Math.ceil(refusal.msBeforeNext / 1_000))
  }
}

export const tooOften = (wait: number) => t('answers.tooMuchAtOnce', { wait: t('answers.countSeconds', { count: wait }) })
