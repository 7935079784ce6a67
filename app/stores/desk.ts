import { defineStore } from 'pinia'
import type { Call, CallId, DeviceId } from '~~/core/calls/model'
import { dueOf, type Due, urgency } from '~~/core/calls/promises'
import { connectionOf, isConversation, othersOf, stretchOf, type Stretch, talkingCallOf } from '~~/core/calls/questions'
import { tellRecall } from '~~/core/calls/story'
import type { PersonRequest, RequestDone } from '~~/shared/requests'
import { sentenceOf } from '~/composables/failure'
import { useDirectory } from './directory'
import { type Happening, useLive } from './live'
import { useSession } from './session'

/** A call as it lies on the operator's track. */
export interface Ribbon {
  call: Call
  stretch: Stretch
  due: Due
}

/** What became of a call that has just left the track: it stays a moment to be read. */
export interface Farewell { id: CallId, text: string, until: number }

type WithoutDevice<R> = R extends { device: DeviceId } ? Omit<R, 'device'> : never
export type Asked = WithoutDevice<PersonRequest>

const farewellStays = 7_000

/** The operator's own calls and what can be done with them. */
export const useDesk = defineStore('desk', () => {
  const live = useLive()
  const session = useSession()
  const directory = useDirectory()

  const device = computed(() => session.me?.extension ?? null)
  const now = ref(live.now())
  /** The arriving call that Enter would answer, when chosen with the arrow keys. */
  const chosen = ref<CallId | null>(null)
  const farewells = ref<Farewell[]>([])
  /** What went wrong last, in a sentence; and what a screen reader should say. */
  const notice = ref<string | null>(null)
  const spoken = ref('')
  const asking = ref(false)

  const ribbons = computed<Ribbon[]>(() => {
    const state = live.state
    const own = device.value
    if (!state || !own) return []
    return Object.values(state.calls).flatMap((call) => {
      const stretch = stretchOf(state, call, own)
      if (!stretch) return []
      const promise = directory.line(call.line)?.promise
      return [{ call, stretch, due: dueOf(state, call, own, promise ? promise * 1_000 : null) }]
    })
  })

  const arriving = computed(() => ribbons.value.filter(ribbon => ribbon.stretch === 'arriving').sort(byUrgency))
  const inHand = computed(() => ribbons.value.filter(ribbon => ribbon.stretch === 'inHand').sort(talkingFirst))
  const passedOn = computed(() => ribbons.value.filter(ribbon => ribbon.stretch === 'passedOn').sort(byUrgency))

  const talking = computed(() => live.state && device.value ? talkingCallOf(live.state, device.value) ?? null : null)
  /** The call that can be passed on now: the one in hand, once both sides are there. */
  const baton = computed(() => {
    const call = talking.value
    return call && isConversation(call) && othersOf(call, device.value!).length === 1 ? call : null
  })
  const held = computed(() => inHand.value.filter(ribbon => ribbon.due.waiting === 'hold'))
  /** What Enter answers when nothing has been typed. */
  const next = computed(() => arriving.value.find(ribbon => ribbon.call.id === chosen.value) ?? arriving.value[0] ?? null)

  function byUrgency(a: Ribbon, b: Ribbon): number {
    return urgency(b.due, now.value) - urgency(a.due, now.value) || a.due.since - b.due.since
  }

  function talkingFirst(a: Ribbon, b: Ribbon): number {
    return Number(a.due.waiting === 'hold') - Number(b.due.waiting === 'hold') || a.due.since - b.due.since
  }

  /** The other side of a call, by name or number. */
  function otherName(call: Call): string {
    const other = device.value && connectionOf(call, device.value) ? othersOf(call, device.value)[0] : connectionOf(call, call.calling)
    return other ? directory.nameOf(other.device, other.party) : 'Nobody'
  }

  /** Asks the exchange for a service with one's own telephone. What is refused is shown; nothing changes then. */
  async function ask(request: Asked): Promise<boolean> {
    if (!device.value || asking.value) return false
    asking.value = true
    notice.value = null
    try {
      await $fetch<RequestDone>('/api/requests', { method: 'POST', body: { id: crypto.randomUUID(), device: device.value, ...request } })
      return true
    }
    catch (error) {
      notice.value = sentenceOf(error)
      return false
    }
    finally {
      asking.value = false
    }
  }

  function say(text: string): void {
    // The same words twice are news twice: a changed text is what a screen reader notices.
    spoken.value = spoken.value === text ? `${text}\u00A0` : text
  }

  function follow(happenings: Happening[]): void {
    const own = device.value
    if (!own) return
    for (const { event, before } of happenings) {
      if (!('call' in event)) continue
      const after = live.state?.calls[event.call]
      if (event.type === 'queued' && after && stretchOf(live.state!, after, own) === 'arriving') announce(after)
      if (event.type === 'delivered' && event.device === own && after) announce(after)
      if (before?.passing?.by !== own) continue
      const caller = otherName(before)
      const taker = directory.nameOf(event.device)
      const department = directory.person(event.device)?.departmentName
      if (event.type === 'established') {
        farewell(event.call, event.device === own ? `You took ${caller} back` : `${taker} took it: ${caller} is talking to ${department ?? taker}`)
      }
      else if (event.type === 'callCleared') farewell(event.call, `${caller} gave up while it rang`)
    }
  }

  function announce(call: Call): void {
    const line = directory.line(call.line)?.name ?? 'Your extension'
    say(call.recall && call.recall.to === device.value
      ? `Back: ${otherName(call)}. ${tellRecall(call.recall, directory.nameOf, live.state!.settings.ringCycle)}`
      : `${line}: ${otherName(call)}`)
  }

  function farewell(id: CallId, text: string): void {
    farewells.value = [...farewells.value.filter(known => known.id !== id), { id, text, until: live.now() + farewellStays }]
    say(text)
  }

  /** Moves the clock of the screen on. */
  function tick(): void {
    now.value = live.now()
    if (farewells.value.some(known => known.until <= now.value)) farewells.value = farewells.value.filter(known => known.until > now.value)
  }

  return { device, now, chosen, farewells, notice, spoken, asking, arriving, inHand, passedOn, talking, baton, held, next, otherName, ask, say, follow, tick }
})
