import { spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { quietState } from '../core/calls/snapshot'
import { merrowby } from '../demo/company/merrowby'
import { SteadyClock } from '../exchange/clock'
import { Gate } from '../exchange/sip/gate'
import { Switch } from '../exchange/switch'
import { anyPort } from '../scripts/processes.mjs'

/** Calls from a carrier, made by Debian's sipp: each is answered by a mailbox, talks for a second and hangs up. What is said is left out: signalling alone. */

const address = '127.0.0.1'
const description = `v=0\r\no=- 1 1 IN IP4 ${address}\r\ns=-\r\nc=IN IP4 ${address}\r\nt=0 0\r\nm=audio 9 RTP/AVP 0\r\n`

/**
 * @param rate calls a second, for `seconds`
 * @returns how many were made and how many of them failed, milliseconds from INVITE to answer, and the share of one processor that the exchange took
 */
export async function callsOfCarrier(rate: number, seconds: number) {
  const folder = mkdtempSync(join(tmpdir(), 'bench-sip-'))
  const [sound, soundPort] = await silentSound()
  const port = await anyPort()
  const company = merrowby(182)
  const trunk = Object.keys(company.trunks)[0]!
  company.trunks[trunk] = { ...company.trunks[trunk]!, channels: 5_000, kept: 0 }
  const exchange = new Switch(quietState(company, { epoch: 'bench', now: Date.now(), attended: [] }), new SteadyClock(Date.now()))
  const gate = new Gate(exchange, {
    address, port: 0, soundPort, token: 'bench', log() {},
    carriers: [{ trunk, name: 'sipp', host: address, port, protocol: 'udp', priority: 0, weight: 1, from: [], account: null, registers: false }],
  })
  await gate.open()
  const begin = process.cpuUsage()
  const from = performance.now()
  const sipp = spawn('sipp', [
    '-sn', 'uac', `${address}:${gate.port}`, '-s', Object.values(company.lines)[0]!.number, '-i', address, '-p', String(port), '-r', String(rate),
    '-m', String(rate * seconds), '-d', '1000', '-l', '2000', '-trace_stat', '-fd', '1', '-nostdin', '-timeout', `${seconds + 40}s`,
  ], { cwd: folder, stdio: 'ignore' })
  await new Promise(resolve => sipp.once('exit', resolve).once('error', resolve))
  const { user, system } = process.cpuUsage(begin)
  const processor = (user + system) / 1_000 / (performance.now() - from)
  const left = exchange.state.calls.size
  gate.close()
  sound.closeAllConnections()
  sound.close()
  const told = statistics(folder)
  rmSync(folder, { recursive: true })
  return { rate, ...told, left, processor: Number(processor.toFixed(2)) }
}

/** What sipp has counted: the last line of its table. */
function statistics(folder: string) {
  const file = readdirSync(folder).find(name => name.endsWith('.csv'))
  if (!file) return { made: 0, failed: 0, answerMs: Number.NaN }
  const lines = readFileSync(join(folder, file), 'utf8').trim().split('\n').map(line => line.split(';'))
  const value = (name: string) => lines.at(-1)![lines[0]!.indexOf(name)] ?? ''
  // 00:00:00:004000, in microseconds at its end.
  const [, , , micros] = value('ResponseTime1(C)').split(':')
  return { made: Number(value('TotalCallCreated')), failed: Number(value('FailedCall(C)')), answerMs: Number(micros) / 1_000 }
}

/** A sound process that describes itself and is silent. */
async function silentSound(): Promise<[Server, number]> {
  let port = 10_000
  const server = createServer((request, response) => {
    if (request.method === 'GET') return void response.write('{"sessions":[]}\n')
    request.resume()
    response.end(JSON.stringify({ port: ++port, sdp: description }))
  })
  await new Promise<void>(resolve => server.listen(0, '127.0.0.1', resolve))
  return [server, (server.address() as { port: number }).port]
}
