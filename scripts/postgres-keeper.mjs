import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { answerOf, anyPort, end, hasEnded, until } from './processes.mjs'
import { Stop } from './say.mjs'

/** Keeps PostgreSQL running as long as whoever started it lives, and not a moment longer. */
const [bin = '', data = '', uid, gid] = process.argv.slice(2)
const as = uid && gid ? { uid: Number(uid), gid: Number(gid) } : {}
const mostTries = 5
const settings = ['listen_addresses=127.0.0.1', 'unix_socket_directories=', 'logging_collector=off', 'log_min_messages=fatal']

/** @type {import('node:child_process').ChildProcess | undefined} */
let postgres
let ending = false

const leave = async () => {
  if (ending) return
  ending = true
  // SIGINT is PostgreSQL's fast shutdown: it ends sessions and closes cleanly.
  if (postgres) await end(postgres, 'SIGINT', 30_000)
  process.exit(0)
}
process.once('SIGTERM', leave)
process.once('SIGINT', leave)
process.once('disconnect', leave)

try {
  process.send?.({ port: await begin(), pid: postgres?.pid })
  postgres?.once('exit', () => ending || process.exit(1))
}
catch (error) {
  console.error(error instanceof Stop ? error.message : error)
  process.exit(1)
}

/** PostgreSQL can't choose a port for itself: somebody may take the one that was free, and then it tries another. */
async function begin() {
  for (let tries = 1; !ending; tries++) {
    const port = await anyPort()
    const given = ['-D', data, '-p', String(port)]
    for (const setting of settings) given.push('-c', setting)
    const last = tries === mostTries
    const stdio = /** @type {import('node:child_process').StdioOptions} */ (['ignore', 'ignore', last ? 'inherit' : 'ignore'])
    const child = postgres = spawn(join(bin, 'postgres'), given, { ...as, cwd: '/', detached: true, stdio })
    const ready = await until(
      () => hasEnded(child) ? 'ended' : answerOf(join(bin, 'pg_isready'), ['-q', '-h', '127.0.0.1', '-p', String(port)]) !== null && 'ready',
      'PostgreSQL did not get ready within a minute.',
    )
    if (ready === 'ready') return port
    if (last) throw new Stop('PostgreSQL ended at once.')
  }
}
