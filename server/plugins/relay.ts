import pino from 'pino'
import bookProgram from '#book-program'
import readingProgram from '#reading-program'
import { briefly } from '../database/away'
import { Relay, setRelay } from '../relay'

const pause = 1_000

/** Starts the relay with the server; waits for the database as long as it takes. */
export default defineNitroPlugin((nitro) => {
  const {
    databaseUrl, exchangePort, linkToken, soundPort, sip, recogniser, spillFolder, calendarOrigins, customerAddress, customerName, customerToken, session,
  } = useRuntimeConfig()
  const logger = pino({ base: undefined })
  const log = (text: string) => logger.info(text)
  let relay: Relay | null = null
  let stopped = false

  const start = async (): Promise<void> => {
    while (!stopped && !relay) {
      try {
        relay = await Relay.start({
          databaseUrl, exchangePort: Number(exchangePort), linkToken, soundPort: soundPort ? Number(soundPort) : null, sip, recogniser,
          secret: session.password, spillFolder, log, readingProgram, bookProgram,
          customerSystem: customerAddress ? { name: customerName, address: customerAddress, token: customerToken } : null,
          calendarOrigins: calendarOrigins.split(',').map(origin => origin.trim()).filter(Boolean),
        })
        setRelay(relay)
      }
      catch (error) {
        log(`waiting for the database: ${/schema/.test((error as Error).message) ? (error as Error).message : briefly(error)}`)
        await new Promise(resolve => setTimeout(resolve, pause))
      }
    }
  }
  void start()

  nitro.hooks.hook('close', async () => {
    stopped = true
    setRelay(null)
    await relay?.stop()
  })
  // Started by another program, the server ends with it.
  process.once('disconnect', () => process.exit(0))
})
