import { askOutside, Unfetched } from '../outside/ask'
import { t } from '../language'

/** Milliseconds for everything together, and bytes. */
const longestFetch = 10_000
export const largestCalendar = 4 * 1024 * 1024
const mostRedirects = 3

/** By what another server knows which state of a calendar we have (RFC 9110, 8.8): what it said of that. */
export interface Validators { etag: string | null, modified: string | null }
const noValidators: Validators = { etag: null, modified: null }

/** `text` is null where nothing has changed since. */
interface FetchedCalendar { text: string | null, validators: Validators }

/**
 * The calendar at an address, wherever that leads on to.
 * @param allowed origins of our own network that may be asked all the same
 * @param known of the calendar that we have
 * @throws Unfetched
 */
export async function fetchCalendar(address: string, allowed: readonly string[], known = noValidators, patience = longestFetch): Promise<FetchedCalendar> {
  const asked = {
    accept: 'text/calendar',
    ...(known.etag !== null && { 'if-none-match': known.etag }), ...(known.modified !== null && { 'if-modified-since': known.modified }),
  }
  const bounds = { allowed, signal: AbortSignal.timeout(patience), largest: largestCalendar }
  let next = new URL(address)
  for (let redirects = 0; redirects <= mostRedirects; redirects++) {
    const { status, headers, text } = await askOutside(next, { headers: asked }, bounds)
    if (status >= 300 && status < 400 && headers.location) {
      if (!URL.canParse(headers.location, next)) throw new Unfetched(t('answers.leadsNowhere'))
      next = new URL(headers.location, next)
      continue
    }
    if (status === 304 && (known.etag ?? known.modified) !== null) return { text: null, validators: known }
    if (status !== 200) throw new Unfetched(t('answers.noCalendarButStatus', { status }))
    return { text, validators: { etag: said(headers.etag), modified: said(headers['last-modified']) } }
  }
  throw new Unfetched(t('answers.leadsOnTooOften', { most: mostRedirects }))
}

/** What another server wrote, where it can be kept and sent again. */
function said(header: string | undefined): string | null {
  return header !== undefined && /^[\x20-\x7E]{1,200}$/.test(header) ? header : null
}
