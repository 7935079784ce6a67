import { WebSocket } from 'ws'
import { createStack, demoPassword } from '../scripts/stack.mjs'
import { feedVersion } from '../shared/beat'
import { alone, expect, type Stage } from './stage'

/** Whether an operator is there is a lease: it ends with whatever dies, freezes or is cut off, and their callers are not left waiting. */
const test = alone({ settings: { absence: 2_000 } })

const present = (stage: Stage, device = 't2100') => stage.cast.state.agents.get(device)!.attended

/** A console's feed without a browser around it, which can fall silent at will. */
async function feed(url: string, who: string, options: { silent?: boolean } = {}): Promise<WebSocket> {
  const answer = await fetch(`${url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ signIn: who, password: demoPassword }),
  })
  const cookie = answer.headers.getSetCookie().map(each => each.split(';')[0]).join('; ')
  const socket = new WebSocket(`${url.replace('http', 'ws')}/api/feed`, { headers: { cookie, origin: url } })
  socket.on('open', () => socket.send(JSON.stringify({ type: 'hello', version: feedVersion })))
  socket.on('message', (message) => {
    if (!options.silent && (JSON.parse(String(message)) as { type: string }).type === 'beat') socket.send('{"type":"here"}')
  })
  socket.on('error', () => {})
  return socket
}

test('consoles that close in their first milliseconds leave nobody there', async ({ own }) => {
  for (let i = 0; i < 8; i++) {
    const socket = await feed(own.url, 'ines')
    socket.once('open', () => setTimeout(() => socket.terminate(), i))
    await new Promise(resolve => socket.once('close', resolve))
  }
  await expect.poll(() => present(own)).toBe(false)
  const call = await own.cast.ring('Late Caller')
  await expect.poll(() => own.cast.state.calls.get(call)?.connections.map(({ device }) => device)).toContain('mailbox:general')
})

test('a browser that hangs with its connection open is taken for gone, and its callers reach the night destination', async ({ own }) => {
  const socket = await feed(own.url, 'ines', { silent: true })
  await expect.poll(() => present(own)).toBe(true)
  const call = await own.cast.ring('Patient Caller')
  expect(own.cast.state.calls.get(call)!.connections.map(({ device }) => device)).toContain('operators')
  await expect.poll(() => present(own), { timeout: 30_000 }).toBe(false)
  await expect.poll(() => own.cast.state.calls.get(call)?.connections.map(({ device }) => device)).toContain('mailbox:general')
  socket.terminate()
})

test('a server that is killed, or stopped, takes its operators with it', async ({ own }) => {
  await feed(own.url, 'ines')
  await expect.poll(() => present(own)).toBe(true)
  own.stack.server!.kill('SIGSTOP')
  await expect.poll(() => present(own), { timeout: 30_000 }).toBe(false)
  own.stack.server!.kill('SIGCONT')
  await expect.poll(() => present(own), { timeout: 30_000 }).toBe(true)
  own.stack.server!.kill('SIGKILL')
  await expect.poll(() => present(own), { timeout: 30_000 }).toBe(false)
})

test('of two servers one dies: who has a console at the other is still there', async ({ own }) => {
  const second = createStack({
    databaseUrl: own.serverUrl,
    output: 'ignore',
    joins: { port: own.stack.exchangePort, token: own.stack.token },
    sessionSecret: own.stack.sessionSecret,
  })
  await second.startServer()
  try {
    await feed(own.url, 'ines')
    const elsewhere = await feed(second.url, 'ines')
    await feed(own.url, 'tomas')
    await expect.poll(() => [present(own), present(own, 't2101')]).toEqual([true, true])
    own.stack.server!.kill('SIGKILL')
    await expect.poll(() => [present(own), present(own, 't2101')], { timeout: 30_000 }).toEqual([true, false])
    elsewhere.terminate()
    await expect.poll(() => present(own), { timeout: 30_000 }).toBe(false)
  }
  finally {
    await second.stop()
  }
})
