import type { SignedIn } from '~~/shared/people'
import { seesCallers } from '~~/shared/roles'
import { useRelay } from '../relay'
import { t } from '../language'

/**
 * Whose messages a person reads: their own, and for those who answer for the company its lines'.
 * @param handset in the demo: the telephone that is held, read instead
 */
export function mailboxesOf({ device, role }: SignedIn, handset: string | undefined): string[] {
  if (handset !== undefined) {
    if (!Object.hasOwn(useRelay().company.current.telephones, handset)) throw createError({ statusCode: 404, message: t('answers.noSuchTelephone') })
    if (handset !== device && !useRuntimeConfig().demo)
      throw createError({ statusCode: 403, message: t('answers.messagesInTheDemo') })
    return [handset]
  }
  const lines = seesCallers(role) ? Object.keys(useRelay().company.current.lines) : []
  return device ? [device, ...lines] : lines
}
