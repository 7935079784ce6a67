import { once } from 'node:events'
import { type AddressInfo, createServer, type Server, type Socket } from 'node:net'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { Tryout } from '../core/calls/tryout'
import { snapshotOf } from '../core/calls/snapshot'
import type { NumberedEvent } from '../core/calls/model'
import { Follower } from './follower'

let server: Server
let follower: Follower
const sockets: Socket[] = []

afterEach(() => {
  follower.close()
  for (const socket of sockets.splice(0)) socket.destroy()
  server.close()
})

const say = (message: object) => sockets.at(-1)!.write(`${JSON.stringify(message)}\n`)

/** An exchange that greets whoever says hello, and a follower that has been greeted. */
async function following(house: Tryout) {
  const told: string[] = []
  const heard: [string, number][] = []
  server = createServer((socket) => {
    sockets.push(socket)
    socket.on('error', () => {})
    socket.on('data', (data) => {
      told.push(String(data))
      if (String(data).includes('hello')) say({ type: 'welcome', now: house.now, state: snapshotOf(house.state), events: [], complete: true })
    })
  }).listen(0, '127.0.0.1')
  await once(server, 'listening')
  follower = new Follower((server.address() as AddressInfo).port, 'secret', (event, state) => heard.push([event.type, state.seq]))
  await vi.waitFor(() => expect(follower.up).toBe(true))
  return { told, heard }
}

describe('who follows the exchange', () => {
  it('says hello with the token, holds its picture, and hears every event with the state after it', async () => {
    const house = new Tryout()
    const { told, heard } = await following(house)
    expect(JSON.parse(told[0]!)).toMatchObject({ type: 'hello', token: 'secret' })
    const { seq } = house.state
    const event: NumberedEvent = { type: 'statusChanged', device: 't2105', reason: 'lunch', until: null, seq: seq + 1, at: house.now } as NumberedEvent
    say({ type: 'event', event })
    await vi.waitFor(() => expect(heard).toEqual([['statusChanged', seq + 1]]))
    expect(follower.state!.devices.get('t2105')!.status.reason).toBe('lunch')
  })

  it('keeps what it knew while the exchange is away, says so, and comes back to what is by then', async () => {
    const house = new Tryout()
    await following(house)
    const call = house.offer()
    sockets.at(-1)!.destroy()
    await vi.waitFor(() => expect(follower.up).toBe(false))
    expect(follower.state!.calls.size).toBe(0)
    await vi.waitFor(() => expect(follower.state!.calls.has(call)).toBe(true))
    expect(follower.up).toBe(true)
  })

  it('what can\'t be read ends the connection and nothing else', async () => {
    const house = new Tryout()
    await following(house)
    sockets.at(-1)!.write('no JSON\n')
    await vi.waitFor(() => expect(sockets.length).toBe(2))
    await vi.waitFor(() => expect(follower.up).toBe(true))
  })
})
