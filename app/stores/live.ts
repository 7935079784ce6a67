import { createEventHook, until, useTimeoutFn, useWebSocket } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowReactive, shallowRef, toRaw } from 'vue'
import { evolve } from '~~/core/calls/evolve'
import type { Call, DeviceId, ExchangeState, NumberedEvent } from '~~/core/calls/model'
import { stateOf } from '~~/core/calls/snapshot'
import { type Company, nobody } from '~~/core/company/company'
import { lookUp, telephonesOf } from '~~/core/company/lookups'
import { type Engaged, onMobilesIn, presenceOf, samePresence, type Presence } from '~~/core/presence/presence'
import { feedBeat, feedVersion } from '~~/shared/beat'
import type { FromBrowser, ToBrowser } from '~~/shared/feed'
import { type NewsTopic, newsTopics } from '~~/shared/news'
import { snapshotIn } from '~~/shared/picture'

const [shortestPause, longestPause] = [250, 4_000]
/** An event comes with the reply to its request, or a moment later. */
const longestWait = 2_000

/** A clock that nobody sets: milliseconds of this screen's own. The exchange's may begin anew with another exchange. */
export const steady = () => performance.now()

/** An event as it is told to listeners: with its call as it stood before, and with everything as it is afterwards. */
export interface Happening { event: NumberedEvent, before: Call | undefined, state: ExchangeState }

/**
 * The live picture: the same state that exchange and server hold, kept by running the same events through `evolve`.
 * Survives a lost connection: what was missed is fetched on return.
 */
export const useLive = defineStore('live', () => {
  const state = shallowRef<ExchangeState | null>(null)
  /** Whether the server speaks to us, and whether the exchange speaks to it. */
  const connected = ref(false)
  const exchange = ref(false)
  const since = ref<number | null>(null)
  /** Each counts up when something of it has changed. */
  const news = reactive(Object.fromEntries(newsTopics.map(topic => [topic, 0])) as Record<NewsTopic, number>)
  /** Counts up when the server has closed the feed, or will not open it: the session may be over, or another role hold. */
  const over = ref(0)
  /** The server speaks to pages of another version. */
  const outdated = ref(false)
  const presences = shallowReactive(new Map<DeviceId, Presence>())
  const happened = createEventHook<[Happening[]]>()
  /** Whose calendar takes this moment. */
  let engaged: ReadonlyMap<DeviceId, Engaged> = new Map()
  /** Whose mobile is in a call of ours. */
  let onMobiles: ReturnType<typeof onMobilesIn> = new Map()
  /** The latest configuration that was sent: it is not sent again. */
  let company: Company = nobody
  let clockOffset = 0
  let heard = false

  const working = computed(() => connected.value && exchange.value)
  /** A connection that there was, or that could not be made: a first one that is still under way is not lost. */
  const lost = computed(() => since.value !== null)
  /** The configuration as it is now: unlike the state it is another one only when somebody has changed it. */
  const companyNow = computed(() => state.value?.company)

  const { ws, status, open: connect, close: hangUp, send } = useWebSocket(() => `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/feed`, {
    immediate: false,
    autoConnect: false,
    autoClose: false,
    autoReconnect: { delay: tried => Math.min(longestPause, shortestPause * 2 ** (tried - 1)) },
    onConnected: sayHello,
    onMessage(_, message) {
      heard = true
      silence.start()
      take(JSON.parse(message.data as string) as ToBrowser)
    },
    onDisconnected(which) {
      if (which === ws.value) gone()
    },
  })

  /** The connection counts as lost when the server has been silent for three beats. */
  const silence = useTimeoutFn(() => {
    gone()
    connect()
  }, feedBeat * 3, { immediate: false })

  function open(): void {
    if (status.value !== 'CLOSED') return
    heard = false
    connect()
    silence.start()
  }

  function close(): void {
    heard = true
    gone()
    hangUp()
    silence.stop()
    state.value = null
    presences.clear()
  }

  function gone(): void {
    if (connected.value || since.value === null) since.value = now()
    connected.value = false
    // Refused before it began: by a server that is away, or because nobody is signed in any more.
    if (!heard) over.value++
    heard = false
    silence.start()
  }

  function take(message: ToBrowser): void {
    if (message.type === 'error') return
    if (message.type === 'outdated') {
      outdated.value = true
      return
    }
    if (message.type === 'over') {
      over.value++
      return
    }
    if (message.type === 'news') {
      for (const topic of message.about ? [message.about] : newsTopics) news[topic]++
      return
    }
    if (message.type === 'reveal') {
      const current = state.value
      if (current?.epoch === message.epoch && current.seq === message.seq) {
        state.value = {
          ...current,
          outlived: current.outlived.map(note => message.outlived.find(known => known.call === note.call) ?? note),
          calls: current.calls.merge(message.calls.map(call => [call.id, call])),
          pages: current.pages.merge(message.pages.map(page => [page.id, page])),
        }
      }
      return
    }
    outdated.value = false
    clockOffset = message.now - steady()
    exchange.value = message.exchange
    if (message.type === 'beat') {
      say({ type: 'here' })
      // Another epoch, or a server ahead of us: it has something to say that we missed.
      if (message.epoch && (message.epoch !== state.value?.epoch || message.seq > state.value.seq)) sayHello()
      return
    }
    if (message.type === 'snapshot') begin(stateOf(snapshotIn(message, company)))
    else if (message.epoch === state.value?.epoch) apply(message.events)
    else sayHello()
    connected.value = true
    since.value = null
  }

  function say(message: FromBrowser): void {
    send(JSON.stringify(message), false)
  }

  /** Says the last event we know; the server answers with what came after it. */
  function sayHello(): void {
    say({ type: 'hello', version: feedVersion, company: company.version, ...(state.value && { since: { epoch: state.value.epoch, seq: state.value.seq } }) })
  }

  function begin(snapshot: ExchangeState): void {
    state.value = snapshot
    company = snapshot.company
    lookAtEverybody()
  }

  function lookAtEverybody(): void {
    presences.clear()
    onMobiles = onMobilesIn(state.value!)
    for (const id of state.value!.devices.keys()) presences.set(id, seen(id))
  }

  function seen(id: DeviceId): Presence {
    return presenceOf(state.value!, id, { engaged: engaged.get(id), onMobile: onMobiles.get(id) })
  }

  function apply(events: NumberedEvent[]): void {
    let current = state.value!
    const touched = new Set<DeviceId>()
    const happenings: Happening[] = []
    for (const event of events) {
      if (event.seq <= current.seq) continue
      if (event.seq > current.seq + 1) return sayHello()
      const before = 'call' in event ? current.calls.get(event.call) : undefined
      current = evolve(current, event)
      const after = 'call' in event ? current.calls.get(event.call) : undefined
      if ('device' in event) touched.add(event.device)
      if ('joined' in event && event.joined) for (const connection of state.value!.calls.get(event.joined)?.connections ?? []) touched.add(connection.device)
      for (const call of [before, after]) for (const connection of call?.connections ?? []) touched.add(connection.device)
      happenings.push({ event, before, state: current })
    }
    state.value = current
    if (current.company !== company) {
      company = current.company
      lookAtEverybody()
    }
    for (const id of onMobiles.keys()) touched.add(id)
    onMobiles = onMobilesIn(current)
    for (const id of onMobiles.keys()) touched.add(id)
    for (const id of [...touched]) for (const other of siblingsOf(id)) touched.add(other)
    lookAgainAt(touched)
    if (happenings.length > 0) void happened.trigger(happenings)
  }

  /** The other telephones of whoever has one. */
  function siblingsOf(device: DeviceId): DeviceId[] {
    const person = lookUp(company.telephones, device)?.person
    return person ? telephonesOf(company, person).map(({ id }) => id) : []
  }

  function lookAgainAt(devices: Iterable<DeviceId>): void {
    for (const device of devices) {
      const before = presences.get(device)
      if (!before) continue
      const after = seen(device)
      if (!samePresence(before, after)) presences.set(device, after)
    }
  }

  /** What is seen of everybody, for who looks at many: one thing to follow instead of thousands. */
  function everybody(): ReadonlyMap<DeviceId, Presence> {
    return presences.size > 0 ? toRaw(presences) : new Map()
  }

  /** Whose calendar takes this moment, by their telephones. */
  function setEngaged(next: ReadonlyMap<DeviceId, Engaged>): void {
    const concerned = new Set([...engaged.keys(), ...next.keys()])
    engaged = next
    lookAgainAt(concerned)
  }

  /** The exchange's time, in milliseconds: it runs steadily, whatever is done to a clock on the wall. */
  function now(): number {
    return Math.round(steady() + clockOffset)
  }

  /** A time of the exchange as people read it, in milliseconds since 1970. */
  function wall(at: number): number {
    return at + (state.value?.clockOffset ?? 0)
  }

  /** Resolves when the picture has come to an event number; after a while in any case, should the connection be lost meanwhile. */
  async function reached(seq: number): Promise<void> {
    const epoch = state.value?.epoch
    await until(() => state.value?.epoch !== epoch || (state.value?.seq ?? 0) >= seq).toBe(true, { timeout: longestWait })
  }

  return {
    state, company: companyNow, connected, exchange, working, lost, since, news, over, outdated, presences,
    everybody, open, close, now, wall, reached, setEngaged, onHappening: happened.on,
  }
})
