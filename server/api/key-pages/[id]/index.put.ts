import { plainText } from '~~/core/calls/text'
import { longestLabel } from '~~/core/speed-keys/key'
import { keyPage, keyPageChange } from '~~/shared/key-pages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'
import { changePage, keysToKeep, pageFor } from '../../../speed-keys/pages'
import { wrongInput } from '../../../validation/read'
import { t } from '../../../language'

export default defineEndpoint({
  summary: 'Change a page of speed keys: its name, and its keys in their order; refused when somebody else has changed it since it was read',
  mayAsk: answering,
  params: withId,
  body: keyPageChange,
  answer: keyPage,
  also: { 404: 'There is no such page of keys.', 409: 'Somebody else has changed it since that version.' },
}, ({ person, params: { id }, body }) => fromDatabase(async () => {
  const { company, orm } = useRelay()
  const em = orm.em.fork()
  const name = plainText(body.name, longestLabel)
  if (!name) throw wrongInput('name', t('answers.nameIsMissing'))
  const { keys: before } = await pageFor(em, person.signIn, id)
  return changePage(em, person.signIn, id, body.version, { name, keys: keysToKeep(company.current, body.keys, before) })
}))
