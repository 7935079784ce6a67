import { understands } from '~~/shared/spoken-names'
import { answering, defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'Whether a name can be spoken instead of typed: this house has a program that understands them',
  mayAsk: answering,
  answer: understands,
}, () => ({ understands: useRelay().recogniser !== null }))
