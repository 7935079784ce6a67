import type { SignedIn } from '~~/shared/people'
import { useRelay } from '../relay'
import { t } from '../language'
import { mailboxesAt, mailboxesReadBy } from './readers'

/**
 * The mailboxes that whoever asks reads.
 * @param handset in the demo: the telephone that is held, read instead
 */
export function mailboxesOf({ device, role }: SignedIn, handset: string | undefined): string[] {
  const company = useRelay().company.current
  if (handset !== undefined) {
    if (!Object.hasOwn(company.telephones, handset)) throw createError({ statusCode: 404, message: t('answers.noSuchTelephone') })
    if (handset !== device && !useRuntimeConfig().demo)
      throw createError({ statusCode: 403, message: t('answers.messagesInTheDemo') })
    return mailboxesAt(company, handset)
  }
  return mailboxesReadBy(company, { device, role })
}

/** Whether messages can be left there for somebody: at a telephone, or for a group. */
export function takesMessages(to: string): boolean {
  const { telephones, groups } = useRelay().company.current
  return Object.hasOwn(telephones, to) || Object.hasOwn(groups, to)
}
