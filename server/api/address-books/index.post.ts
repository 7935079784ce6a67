import { addressBook, newAddressBook } from '~~/shared/address-books'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Read an address book of another server (CardDAV) from now on: its cards are contacts here, changed there alone',
  mayAsk: { right: 'runCompany' },
  body: newAddressBook,
  answer: addressBook,
  also: { 409: 'There is one of that name, or that one is read already.' },
}, ({ body }) => useRelay().addressBooks.add(body))
