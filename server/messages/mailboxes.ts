import type { SignedIn } from '~~/shared/people'
import { seesCallers } from '~~/shared/redaction'
import { useRelay } from '../relay'

/**
 * Whose messages a person reads: their own, and for those who answer for the company its lines'.
 * @param handset in the demo: the extension whose handset is held, read instead
 */
export function mailboxesOf({ extension, role }: SignedIn, handset: string | undefined): string[] {
  if (handset !== undefined) {
    if (!useRelay().directory.company.people.some(person => person.extension === handset)) throw createError({ statusCode: 404, message: 'There is no such telephone.' })
    if (handset !== extension && !useRuntimeConfig().demo) throw createError({ statusCode: 403, message: 'Messages of others can be read at their handset in the demo only.' })
    return [handset]
  }
  const lines = seesCallers(role) ? useRelay().directory.company.lines.map(line => line.id) : []
  return extension ? [extension, ...lines] : lines
}
