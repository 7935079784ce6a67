import { lookUp } from '~~/core/company/lookups'
import type { SignedIn } from '~~/shared/people'
import { useRelay } from '../relay'
import { t } from '../language'

/**
 * A person keeps their own calendar; whose role may keeps everybody's, and the rosters.
 * @throws 403, or 404 where there is nothing to keep
 */
export function mayKeepCalendar({ device, rights }: SignedIn, of: string): void {
  const { calendars, company } = useRelay()
  const own = device !== null && lookUp(company.current.telephones, device)?.person === of
  if (!own && !rights.includes('keepCalendars'))
    throw createError({ statusCode: 403, message: t('answers.calendarsByRole') })
  if (!calendars.knows(of)) throw createError({ statusCode: 404, message: t('answers.noSuchCalendarOwner') })
}
