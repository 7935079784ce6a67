import { health } from '~~/shared/people'
import { defineEndpoint } from '../endpoints/define'
import { relayIfAny } from '../relay'

export default defineEndpoint({
  summary: 'That this server is alive, whatever else is away: whoever watches it starts it again when it does not answer',
  mayAsk: 'everybody',
  answer: health,
}, () => ({ status: relayIfAny()?.journal.losing ? 'losing' as const : 'ok' as const, seconds: Math.round(process.uptime()) }))
