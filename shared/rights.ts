import type { Role } from './roles'

/** What a role may be given beside what it is there for. */
export const rights = [
  'changeContacts', 'moveContacts', 'keepPlaces', 'readParkings', 'keepCalendars', 'keepCharges', 'readFigures', 'hearRecordings', 'runCompany', 'keepAccounts',
] as const
export type Right = typeof rights[number]

/** Administrators always run the company and keep the accounts: nobody shuts themselves out. */
export const always: readonly Right[] = ['runCompany', 'keepAccounts']

/** Who has them until somebody decides otherwise. Staff members answer for nobody but themselves, and are given none of these. */
export const rightsAtFirst: Record<Exclude<Role, 'staff'>, Right[]> = {
  operator: ['changeContacts', 'moveContacts', 'keepPlaces', 'readParkings'],
  supervisor: ['changeContacts', 'moveContacts', 'keepPlaces', 'readParkings', 'keepCalendars', 'keepCharges', 'readFigures', 'hearRecordings'],
  administrator: [...rights],
}
