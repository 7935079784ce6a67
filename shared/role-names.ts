import { phrase, type Phrase } from '../words/phrase'
import type { Role } from './roles'

/** What roles are called. */
export const roleNames: Record<Role, Phrase> = {
  operator: phrase('accounts.operator'), supervisor: phrase('accounts.supervisor'), administrator: phrase('accounts.administrator'),
  staff: phrase('accounts.staff'),
}
