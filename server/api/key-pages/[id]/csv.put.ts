import { spoken } from '~~/words/phrase'
import { t } from '~~/server/language'
import { fromCsv } from '~~/core/speed-keys/csv'
import { keyPage, keyPageFile } from '~~/shared/key-pages'
import { withId } from '~~/shared/people'
import { fromDatabase } from '../../../database/away'
import { answering, defineEndpoint } from '../../../endpoints/define'
import { useRelay } from '../../../relay'
import { changePage, keysToKeep } from '../../../speed-keys/pages'
import { wrongInput } from '../../../validation/read'

export default defineEndpoint({
  summary: 'Replace the keys of a page by those of a CSV file; a row that can\'t be read is named, and nothing is changed then',
  dear: true,
  mayAsk: answering,
  params: withId,
  body: keyPageFile,
  answer: keyPage,
  also: { 404: 'There is no such page of keys.', 409: 'Somebody else has changed it since that version.' },
}, ({ person, params: { id }, body: { version, csv } }) => {
  const { company, orm } = useRelay()
  const read = fromCsv(company.current, csv)
  if ('fault' in read) throw wrongInput('csv', spoken(t, read.fault))
  return fromDatabase(() => changePage(orm.em.fork(), person.signIn, id, version, { keys: keysToKeep(company.current, read.keys) }))
})
