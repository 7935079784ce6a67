import { until } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Call, CallId } from '~~/core/calls/model'
import { parkedIn, stretchOf } from '~~/core/calls/questions'
import { tellRecall } from '~~/core/calls/story'
import { type Asked, otherName as nameOfOther } from '~~/core/console/console'
import { emptyTrack, type Track, trackOf } from '~~/core/console/track'
import type { RequestDone, RequestOutcome } from '~~/shared/requests'
import { isUnknown, sentenceOf } from '~/composables/failure'
import { useDirectory } from './directory'
import { type Happening, useLive } from './live'
import { useSession } from './session'

/** What became of a call that has just left the track: it stays a moment to be read. */
export interface Farewell { id: CallId, text: string, until: number }

const farewellStays = 7_000
const longestFindingOut = 60_000

/** The operator's own calls and what can be done with them. */
export const useDesk = defineStore('desk', () => {
  const live = useLive()
  const session = useSession()
  const directory = useDirectory()

  const device = computed(() => session.me?.device ?? null)
  const now = ref(live.now())
  const chosenId = ref<CallId | null>(null)
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

  const track = computed<Track>(() => live.state && device.value
    ? trackOf(live.state, device.value, { next: chosenId.value, carried: carriedId.value }, now.value)
    : emptyTrack)
  /** The arriving call that Enter would answer, when chosen by hand. */
  const chosen = computed(() => track.value.chosen ? chosenId.value : null)
  const arriving = computed(() => track.value.arriving)
  const inHand = computed(() => track.value.inHand)
  const passedOn = computed(() => track.value.passedOn)
  const held = computed(() => track.value.held)
  const talking = computed(() => track.value.talking)
  const consultation = computed(() => track.value.consultation)
  const askedFor = computed(() => track.value.askedFor)
  const next = computed(() => track.value.next)
  const carried = computed(() => track.value.carried)
  const baton = computed(() => track.value.baton)

  const slots = computed(() => live.state ? Object.values(live.state.company.slots).map(slot => ({ slot, call: parkedIn(live.state!, slot.id) ?? null })) : [])

  /** The other side of a call, by name or number. */
  function otherName(call: Call): string {
    return nameOfOther(call, device.value, directory.nameOf)
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

  /** Chooses the arriving call that Enter is to answer; null leaves it to the most urgent. */
  function choose(call: CallId | null): void {
    chosenId.value = call
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
    device,
    now,
    track,
    chosen,
    quiet,
    farewells,
    notice,
    spoken,
    asking,
    arriving,
    inHand,
    passedOn,
    talking,
    consultation,
    askedFor,
    baton,
    carried,
    held,
    next,
    slots,
    otherName,
    ask,
    say,
    follow,
    choose,
    hush,
    carry,
    tick,
  }
})
