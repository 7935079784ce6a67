import { randomUUID } from 'node:crypto'
import { parseArgs } from 'node:util'
import { localTime } from '../core/calendar/zones'
import { InventedClock, SteadyClock, WaitingClock } from '../exchange/clock'
import { runExchange, sipOptions, stop, whole } from '../exchange/run'
import type { Switch } from '../exchange/switch'
import { demoNow } from './clock'
import { paces } from './paces'
import { Rehearsal } from './rehearsal/rehearsal'
import { type Scene, scenes } from './rehearsal/scenes'

/** The stand-in exchange of the demo: callers call and colleagues answer. */
const { values } = parseArgs({
  options: {
    port: { type: 'string', default: '0' },
    seed: { type: 'string', default: '7' },
    pace: { type: 'string', default: 'easy' },
    /** Begins an invented clock at this time (ISO 8601) instead of real time. */
    clock: { type: 'string' },
    /** Begins in the middle of something, and goes on as soon as an operator is there. */
    scene: { type: 'string' },
    ...sipOptions,
  },
})

const pace = paces[values.pace] ?? stop(`--pace must be one of ${Object.keys(paces).join(', ')}.`)
const scene = values.scene ? scenes[values.scene] ?? stop(`--scene must be one of ${Object.keys(scenes).join(', ')}.`) : null
const seed = whole(values.seed, 'seed')
const begin = values.clock ? whole(String(Date.parse(values.clock)), 'clock') : demoNow()
const start = scene ? begin - scene.prelude : begin
const clock = values.clock ? new InventedClock(start) : scene ? new WaitingClock(start) : new SteadyClock(start)

await runExchange({
  clock,
  port: whole(values.port, 'port'),
  wall: demoNow,
  sip: values,
  onCompany(exchange) {
    if (!(clock instanceof SteadyClock) && scene) playScene(scene, exchange, clock)
    if (values.pace === 'still') return
    const localOffset = localTime(exchange.state.company.settings.zone, begin) - Math.floor(begin / 1_000) * 1_000
    const people = new Rehearsal(exchange.state.company, { seed, localOffset, ...pace }, exchange.now())
    people.join(exchange.state, exchange.now())
    exchange.letIn(people)
  },
})

/** Plays the scene on a clock that stands still; a waiting one goes on when the first operator comes after it. */
function playScene({ play }: Scene, exchange: Switch, stands: InventedClock | WaitingClock): void {
  play({
    get state() { return exchange.state },
    ask: request => exchange.request(`scene:${randomUUID()}`, request),
    moveTo(at) {
      stands.moveTo(at)
      exchange.request(`scene:${randomUUID()}`, { service: 'tick' })
    },
  })
  exchange.onEvent((event) => {
    if (event.type === 'agentStateChanged' && event.attended && stands instanceof WaitingClock) stands.begin()
  })
}
