import { until } from '@vueuse/core'
import { defineStore } from 'pinia'
import type { Call, CallId, DeviceId } from '~~/core/calls/model'
import { dueOf, type Due, urgency } from '~~/core/calls/promises'
import { callsByAge, connectionOf, isConversation, othersOf, parkedIn, partnerOf, stretchOf, type Stretch, talkingCallOf } from '~~/core/calls/questions'
import { tellRecall } from '~~/core/calls/story'
import type { PersonRequest, RequestDone, RequestOutcome } from '~~/shared/requests'
import { isUnknown, sentenceOf } from '~/composables/failure'
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
const longestFindingOut = 60_000

/** The operator's own calls and what can be done with them. */
export const useDesk = defineStore('desk', () => {
  const live = useLive()
  const session = useSession()
  const directory = useDirectory()

  const device = computed(() => session.me?.device ?? null)
  const now = ref(live.now())
  /** The arriving call that Enter would answer, when chosen with the arrow keys. */
  const chosen = ref<CallId | null>(null)
  /** The call picked up from the track to be carried somewhere, by hand or by key. */
  const carriedId = ref<CallId | null>(null)
  /** Ringing calls that make no sound here any more. */
  const quiet = ref(new Set<CallId>())
  const farewells = ref<Farewell[]>([])
  /** What went wrong last, in a sentence; and what a screen reader should say. */
  const notice = ref<string | null>(null)
  const spoken = ref('')
  const asking = ref(false)
  const underWay = new Set<string>()
  let last: Promise<unknown> = Promise.resolve()

  const ribbons = computed<Ribbon[]>(() => {
    const state = live.state
    const own = device.value
    if (!state || !own) return []
    return callsByAge(state).flatMap((call) => {
      const stretch = stretchOf(state, call, own)
      if (!stretch) return []
      const promise = directory.line(call.line)?.promise
      return [{ call, stretch, due: dueOf(state, call, own, promise ?? null) }]
    })
  })

  const arriving = computed(() => ribbons.value.filter(ribbon => ribbon.stretch === 'arriving').sort(byUrgency))
  const inHand = computed(() => ribbons.value.filter(ribbon => ribbon.stretch === 'inHand').sort(talkingFirst))
  const passedOn = computed(() => ribbons.value.filter(ribbon => ribbon.stretch === 'passedOn').sort(byUrgency))

  const talking = computed(() => live.state && device.value ? talkingCallOf(live.state, device.value) ?? null : null)
  /** The call on which a colleague is being asked about a caller who waits, whether one talks to the colleague or has swapped back. */
  const consultation = computed(() => {
    const asked = ribbons.value.filter(({ call, stretch }) => stretch === 'inHand' && call.consultation && call.calling === device.value).map(ribbon => ribbon.call)
    return asked.find(call => call === talking.value || call.consultation === talking.value?.id) ?? asked[0] ?? null
  })
  const askedFor = computed(() => consultation.value ? live.state?.calls.get(consultation.value.consultation!) ?? null : null)
  const held = computed(() => inHand.value.filter(ribbon => ribbon.due.waiting === 'hold').sort((a, b) => a.due.since - b.due.since))
  /** What Enter answers when nothing has been typed. */
  const next = computed(() => arriving.value.find(ribbon => ribbon.call.id === chosen.value) ?? arriving.value[0] ?? null)
  const carried = computed(() => carriedId.value ? live.state?.calls.get(carriedId.value) ?? null : null)

  /** The call that goes wherever the field says: the one carried, the caller one asks for, the one in hand, or the only one on hold. */
  const baton = computed(() => {
    if (carried.value) return carried.value
    if (askedFor.value) return askedFor.value
    const call = talking.value
    if (call) return isConversation(call) && partnerOf(call, device.value!) ? call : null
    return held.value.length === 1 ? held.value[0]!.call : null
  })

  const slots = computed(() => live.state ? Object.values(live.state.company.slots).map(slot => ({ slot, call: parkedIn(live.state!, slot.id) ?? null })) : [])

  function byUrgency(a: Ribbon, b: Ribbon): number {
    return urgency(b.due, now.value) - urgency(a.due, now.value) || a.due.since - b.due.since
  }

  /** Who is talked to stands first, and a caller next to the colleague who is being asked. */
  function talkingFirst(a: Ribbon, b: Ribbon): number {
    return rank(a) - rank(b) || a.due.since - b.due.since
  }

  function rank({ call, due }: Ribbon): number {
    if (call.id === consultation.value?.id) return 1
    if (call.id === askedFor.value?.id) return 2
    return due.waiting === 'hold' ? 3 : 0
  }

  /** The other side of a call, by name or number. */
  function otherName(call: Call): string {
    const own = device.value && connectionOf(call, device.value)
    const others = own ? othersOf(call, device.value!).filter(other => !other.invitedBy) : []
    if (others.length > 1) return others.map(other => directory.nameOf(other.device, other.party)).join(', ')
    if (own && call.failed) return directory.nameOf(call.failed.device)
    const other = others[0] ?? connectionOf(call, call.calling)
    return other ? directory.nameOf(other.device, other.party) : 'Nobody'
  }

  /**
   * Asks the exchange for a service with one's own telephone, after whatever is being asked already. What is refused is shown; nothing changes then.
   * The same again, while it is under way, is the second half of a double click.
   */
  async function ask(request: Asked): Promise<boolean> {
    const key = JSON.stringify(request)
    if (!device.value || underWay.has(key)) return false
    underWay.add(key)
    asking.value = true
    const carriedOut = last.then(() => carryOut(request))
    last = carriedOut
    const done = await carriedOut
    underWay.delete(key)
    asking.value = underWay.size > 0
    return done
  }

  async function carryOut(request: Asked): Promise<boolean> {
    notice.value = null
    const id = crypto.randomUUID()
    try {
      const { seq } = await $fetch<RequestDone>('/api/requests', { method: 'POST', body: { id, device: device.value, ...request } })
      // Whatever is done next is meant for the picture after this.
      await live.reached(seq)
      if ('call' in request && request.call === carriedId.value) carriedId.value = null
      return true
    }
    catch (error) {
      notice.value = sentenceOf(error)
      return isUnknown(error) && await findOut(id)
    }
  }

  /** The answer never came: whether it was done is asked as soon as somebody can say. */
  async function findOut(id: string): Promise<boolean> {
    notice.value = 'It isn\'t known yet whether that was done: the answer has not come. Finding out …'
    await until(() => live.working).toBe(true, { timeout: longestFindingOut })
    try {
      const { carriedOut, sentence } = await $fetch<RequestOutcome>(`/api/requests/${id}`)
      notice.value = carriedOut ? null : `${sentence ?? 'The exchange was not reached.'} That was not done: try again if it is still wanted.`
      return carriedOut
    }
    catch {
      notice.value = 'It isn\'t known whether that was done. Look at the call before you try again.'
      return false
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
      const after = live.state?.calls.get(event.call)
      if (event.type === 'queued' && after && stretchOf(live.state!, after, own) === 'arriving') announce(after)
      if (event.type === 'delivered' && event.device === own && after) announce(after)
      // A call on its way again has not said goodbye.
      if (event.type === 'transferred') farewells.value = farewells.value.filter(known => known.id !== event.call)
      if (before?.passing?.by === own) followPassing(event, before)
      if (before?.consultation && before.calling === own) followConsultation(event)
    }
  }

  type CallHappening = Extract<Happening['event'], { call: CallId }>

  function followPassing(event: CallHappening, before: Call): void {
    const caller = otherName(before)
    const taker = directory.nameOf(event.device)
    const department = directory.person(event.device)?.departmentName
    if (event.type === 'established') {
      const words = event.device === device.value ? `You took ${caller} back` : `${taker} took it: ${caller} is talking to ${department ?? taker}`
      const after = live.state?.calls.get(event.call)
      // Who talks outside stays on the track for a while.
      if (after && stretchOf(live.state!, after, device.value!) === 'passedOn') say(words)
      else farewell(event.call, words)
    }
    else if (event.type === 'callCleared') farewell(event.call, `${caller} gave up while it rang`)
  }

  function followConsultation(event: CallHappening): void {
    if (event.device === device.value) return
    const colleague = directory.nameOf(event.device)
    if (event.type === 'established') say(`${colleague} answered`)
    else if (event.type === 'connectionCleared') say(`${colleague} hung up. Your caller is on hold.`)
    else if (event.type === 'failed') say(`${colleague} can't be reached. Your caller is on hold.`)
  }

  function announce(call: Call): void {
    const line = directory.line(call.line)?.name ?? 'Your extension'
    say(call.recall && call.recall.to === device.value
      ? `Back: ${otherName(call)}. ${tellRecall(call.recall, directory.nameOf, live.state!.company.settings.ringCycle)}`
      : `${line}: ${otherName(call)}`)
  }

  function farewell(id: CallId, text: string): void {
    farewells.value = [...farewells.value.filter(known => known.id !== id), { id, text, until: live.now() + farewellStays }]
    say(text)
  }

  /** Makes a ringing call silent here; it can still be answered. */
  function hush(call: CallId): void {
    quiet.value = new Set([...quiet.value, call])
  }

  /** Picks a call up from the track, to be put down on whoever the field or the pointer names. */
  function carry(call: CallId | null): void {
    carriedId.value = call
    if (call) say(`Carrying ${otherName(live.state!.calls.get(call)!)}: say who it is for, or press Escape`)
  }

  /** Moves the clock of the screen on. */
  function tick(): void {
    now.value = live.now()
    if ([...quiet.value].some(call => !live.state?.calls.get(call))) quiet.value = new Set([...quiet.value].filter(call => live.state?.calls.get(call)))
    if (farewells.value.some(known => known.until <= now.value)) farewells.value = farewells.value.filter(known => known.until > now.value)
  }

  return {
    device, now, chosen, quiet, farewells, notice, spoken, asking, arriving, inHand, passedOn, talking, consultation, askedFor, baton, carried, held, next, slots,
    otherName, ask, say, follow, hush, carry, tick,
  }
})
