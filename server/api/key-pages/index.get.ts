import { keyPages } from '~~/shared/key-pages'
import { fromDatabase } from '../../database/away'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'
import { pagesFor } from '../../speed-keys/pages'

export default defineEndpoint({
  summary: 'The pages of speed keys that one sees: the shared ones first, then one\'s own',
  mayAsk: answering,
  answer: keyPages,
}, ({ person }) => fromDatabase(() => pagesFor(useRelay().orm.em.fork(), person.signIn)))
