import { randomBytes } from 'node:crypto'
import { parseArgs } from 'node:util'
import { Rehearsal } from '../core/rehearsal/rehearsal'
import { busyMoment, prelude, type Scene, scenes } from '../core/rehearsal/scenes'
import type { Settings } from '../core/calls/model'
import { exchangeOf } from '../core/world/exchange'
import { merrowby } from '../core/world/merrowby'
import { clockOffset, InventedClock, SteadyClock, WaitingClock } from './clock'
import { listen } from './listen'
import { paces } from './paces'
import { Switch } from './switch'

const { values } = parseArgs({
  options: {
    'port': { type: 'string', default: '0' },
    'seed': { type: 'string', default: '7' },
    'pace': { type: 'string', default: 'easy' },
    'size': { type: 'string', default: '182' },
    /** Begins an invented clock at this time (ISO 8601) instead of real time. */
    'clock': { type: 'string' },
    /** Begins in the middle of something, and goes on as soon as an operator is there. */
    'scene': { type: 'string' },
    'transfer-recall': { type: 'string' },
    'park-recall': { type: 'string' },
    'absence': { type: 'string' },
    'no-answer': { type: 'string' },
  },
})

const token = process.env.ESTAFETTE_LINK_TOKEN ?? ''
if (!token) stop('ESTAFETTE_LINK_TOKEN must hold the secret that servers say to this exchange.')
const pace = paces[values.pace]
if (!pace) stop(`--pace must be one of ${Object.keys(paces).join(', ')}.`)

if (values.scene && !scenes.includes(values.scene as Scene)) stop(`--scene must be one of ${scenes.join(', ')}.`)
const begin = values.clock ? whole(String(Date.parse(values.clock)), 'clock') : Date.now()
const waiting = values.scene && !values.clock ? new WaitingClock(begin) : null
const clock = values.clock ? new InventedClock(begin) : waiting ?? new SteadyClock(begin)
const world = merrowby(whole(values.size, 'size'))
const optional = (name: 'transfer-recall' | 'no-answer' | 'park-recall' | 'absence', setting: keyof Settings) => values[name] && { [setting]: whole(values[name], name) }
const quiet = exchangeOf(world, {
  epoch: randomBytes(4).toString('hex'),
  now: values.scene ? begin - prelude : begin,
  settings: {
    ...optional('transfer-recall', 'transferRecall'),
    ...optional('no-answer', 'noAnswer'),
    ...optional('park-recall', 'parkRecall'),
    ...optional('absence', 'absence'),
  },
})
const state = values.scene ? busyMoment(quiet, world) : quiet
const people = values.pace === 'still' ? null : new Rehearsal(world, { seed: whole(values.seed, 'seed'), localOffset: -new Date(begin).getTimezoneOffset() * 60_000, ...pace }, clock.now())
const exchange = new Switch(state, clock, people)
exchange.onEvent((event) => {
  if (event.type === 'agentStateChanged' && event.attended) waiting?.begin()
})
if (clock instanceof SteadyClock) {
  setInterval(() => {
    const offset = clockOffset(clock.now(), Date.now(), exchange.state.clockOffset)
    if (offset !== null) exchange.request(`clock:${exchange.state.seq}:${offset}`, { service: 'adjustClock', offset })
  }, 1_000).unref()
}
const { port, server } = await listen(exchange, clock, { port: whole(values.port, 'port'), token, log: text => console.error(text) })
console.log(`exchange ready on 127.0.0.1:${port}, epoch ${state.epoch}, ${world.people.length} extensions, pace ${values.pace}`)
process.send?.({ ready: true, port })

const leave = () => {
  server.close()
  process.exit(0)
}
process.once('SIGTERM', leave)
process.once('SIGINT', leave)
// Started by another program, it ends with it.
process.once('disconnect', leave)

function whole(text: string, name: string): number {
  const value = Number(text)
  if (!Number.isSafeInteger(value) || value < 0) stop(`--${name} must be a whole number.`)
  return value
}

function stop(sentence: string): never {
  console.error(sentence)
  process.exit(2)
}
