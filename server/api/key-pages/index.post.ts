import { plainText } from '~~/core/calls/text'
import { longestLabel } from '~~/core/speed-keys/key'
import { keyPage, newKeyPage } from '~~/shared/key-pages'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'
import { addPage, keysToKeep } from '../../speed-keys/pages'
import { wrongInput } from '../../validation/read'
import { t } from '../../language'

export default defineEndpoint({
  summary: 'Add a page of speed keys, for oneself or for all who answer for the company; a copy is a page with the keys of another',
  mayAsk: answering,
  body: newKeyPage,
  answer: keyPage,
  also: { 409: 'There are as many pages as there may be.' },
}, ({ person, body }) => {
  const { company, orm } = useRelay()
  const name = plainText(body.name, longestLabel)
  if (!name) throw wrongInput('name', t('answers.nameIsMissing'))
  const keys = keysToKeep(company.current, body.keys)
  return fromDatabase(() => addPage(orm.em.fork(), person.signIn, { name, shared: body.shared, keys }))
})
