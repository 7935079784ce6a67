import { useSession } from '~/stores/session'
import type { Right } from '~~/shared/rights'
import { seesCallers } from '~~/shared/roles'

/** What a page asks of whoever opens it; pages that are not named are for everybody. `callers`: to answer for the house. */
const needed: Record<string, Right | 'callers'> = {
  '/contacts': 'callers', '/contacts/import': 'moveContacts', '/call-backs': 'callers', '/shift': 'callers', '/outside': 'callers', '/blocked': 'callers',
  '/parkings': 'readParkings', '/recordings': 'hearRecordings',
  '/figures': 'readFigures', '/figures/ahead': 'readFigures', '/watch': 'readFigures', '/wall': 'readFigures',
  '/charges': 'keepCharges', '/accounts': 'keepAccounts', '/identity': 'keepAccounts', '/connections': 'runCompany', '/upkeep': 'runCompany',
  '/first-hour': 'runCompany', '/company': 'runCompany', '/company/changes': 'runCompany', '/company/directory': 'runCompany', '/company/file': 'runCompany',
  '/company/people': 'runCompany', '/company/sounds': 'runCompany',
}

/** True for a page that whoever is signed in may open: no other is offered. */
export function mayOpen(page: string): boolean {
  const session = useSession()
  const asks = needed[page]
  if (asks === undefined) return true
  return asks === 'callers' ? session.me !== null && seesCallers(session.me.role) : session.may(asks)
}
