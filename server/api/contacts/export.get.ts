import { contactTable } from '~~/core/formats/contact-table'
import { cardText } from '~~/core/formats/vcard'
import { exportQuery } from '~~/shared/contact-imports'
import { contactsFor } from '../../contacts/contacts'
import { ownUid } from '../../contacts/imports'
import { fromDatabase } from '../../database/away'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Contacts as vCards (RFC 2426 or 6350) or as CSV (RFC 4180): the shared ones, one\'s own, or both',
  dear: true,
  mayAsk: { right: 'moveContacts' },
  query: exportQuery,
  also: { 200: 'The file, as text/vcard or text/csv.' },
}, async ({ event, person, query: { format, which } }) => {
  const { orm, company } = useRelay()
  const all = await fromDatabase(() => contactsFor(orm.em.fork(), person.signIn))
  const names = new Map(all.map(({ id, name }) => [id, name]))
  const wanted = all.filter(contact => which === 'all' || contact.private === (which === 'own'))
    .map(contact => ({ ...contact, uid: contact.uid ?? ownUid(contact.id), company: contact.company && (names.get(contact.company) ?? null) }))
  const [type, file] = format === 'csv' ? ['text/csv; charset=utf-8; header=present', 'contacts.csv'] : ['text/vcard; charset=utf-8', 'contacts.vcf']
  setResponseHeader(event, 'content-type', type)
  setResponseHeader(event, 'content-disposition', `attachment; filename="${file}"`)
  const version = format === 'vcard3' ? '3.0' : '4.0'
  const cards = () => wanted.map(one => cardText(one, one.card, version, company.current.settings)).join('')
  return (format === 'csv' ? contactTable(wanted) : cards()) as never
})
