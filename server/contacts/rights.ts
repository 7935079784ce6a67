import type { SignedIn } from '~~/shared/people'
import { fromDatabase } from '../database/away'
import { useRelay } from '../relay'
import { t } from '../language'

/**
 * Everybody who answers keeps their own contacts; those that all see are changed by whose role may.
 * @param which an id, or whether a new one is for oneself alone
 * @throws 403
 */
export async function mayChangeContact({ signIn, rights }: SignedIn, which: { id: string } | { private: boolean }): Promise<void> {
  if (rights.includes('changeContacts')) return
  const isOwn = 'private' in which
    ? which.private
    : (await fromDatabase(() => useRelay().orm.em.fork().execute<object[]>('select 1 from contact where id = ? and owner = ?', [which.id, signIn]))).length > 0
  if (isOwn) return
  throw createError({ statusCode: 403, message: t('answers.sharedContactsNotByRole') })
}
