import { askOutside, Unfetched } from '../outside/ask'

/** Milliseconds for everything together, and bytes. */
const longestFetch = 10_000
export const largestCalendar = 2 * 1024 * 1024
const mostRedirects = 3

/**
 * The calendar at an address, wherever that leads on to.
 * @param allowed origins of our own network that may be asked all the same
 * @throws Unfetched
 */
export async function fetchCalendar(address: string, allowed: readonly string[], patience = longestFetch): Promise<string> {
  const bounds = { allowed, signal: AbortSignal.timeout(patience), largest: largestCalendar }
  let next = new URL(address)
  for (let redirects = 0; redirects <= mostRedirects; redirects++) {
    const { status, headers, text } = await askOutside(next, { headers: { accept: 'text/calendar' } }, bounds)
    if (status >= 300 && status < 400 && headers.location) {
      if (!URL.canParse(headers.location, next)) throw new Unfetched('The address leads on to another that is none.')
      next = new URL(headers.location, next)
      continue
    }
    if (status !== 200) throw new Unfetched(`The address answers with status ${status} instead of a calendar.`)
    return text
  }
  throw new Unfetched(`The address leads on more than ${mostRedirects} times.`)
}
