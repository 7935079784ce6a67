import { parseArgs } from 'node:util'
import { SteadyClock } from './clock'
import { runExchange, sipOptions, whole } from './run'

const { values } = parseArgs({ options: { port: { type: 'string', default: '0' }, ...sipOptions } })

/** The stand-in exchange alone: nobody calls and nobody answers but who is told to, by a server or at a stand-in handset. */
await runExchange({ clock: new SteadyClock(Date.now()), port: whole(values.port, 'port'), sip: values })
