import { until, useTimeoutFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Call, CallId, DeviceId } from '~~/core/calls/model'
import { parkedIn } from '~~/core/calls/questions'
import type { Stretch } from '~~/core/calls/stretches'
import { actWords } from '~~/core/console/acts'
import { type Announcement, Announcements, type Rank } from '~~/core/console/announcements'
import { boardNews } from '~~/core/console/board-news'
import { apart, type Asked, otherName as nameOfOther } from '~~/core/console/console'
import { lateness, type Scene, tidingsOf } from '~~/core/console/tidings'
import { emptyTrack, type Track, trackOf } from '~~/core/console/track'
import type { RequestDone, RequestOutcome } from '~~/shared/requests'
import { isUnknown, sentenceOf } from '~/composables/failure'
import { useDirectory } from './directory'
import { type Happening, steady, useLive } from './live'
import { usePreferences } from './preferences'
import { useSession } from './session'
import { t } from '~/composables/language'

/** What became of a call that has just left a stretch of the track: it stays a moment to be read. */
export interface Farewell { id: CallId, stretch: Stretch, text: string, until: number }

const farewellStays = 7_000
/** As many announcements can be read again. */
const mostSaid = 100
const longestFindingOut = 60_000

/** The operator's own calls and what can be done with them. */
export const useDesk = defineStore('desk', () => {
  const live = useLive()
  const session = useSession()
  const directory = useDirectory()
  const preferences = usePreferences()

  const device = computed(() => session.me?.device ?? null)
  /** Whoever is signed in is one of the operators. */
  const operates = computed(() => Boolean(device.value && live.state?.agents.has(device.value)))
  const now = ref(live.now())
  const chosenId = ref<CallId | null>(null)
  /** The call picked up from the track to be carried somewhere, by hand or by key. */
  const carriedId = ref<CallId | null>(null)
  /** Ringing calls that make no sound here any more. */
  const quiet = ref(new Set<CallId>())
  const farewells = ref<Farewell[]>([])
  /** What went wrong last, in a sentence. */
  const notice = ref<string | null>(null)
  /** What a screen reader says, one after the other; the latest last. */
  const said = ref<(Announcement & { id: number })[]>([])
  const announcements = new Announcements(t, () => preferences.loudness, () => preferences.voice)
  /** Counts what the operator has done. */
  const done = ref(0)
  /** The call of the last request when that was refused. */
  const refusedFor = ref<CallId | null>(null)
  const asking = ref(false)
  const underWay = new Set<string>()
  let last: Promise<unknown> = Promise.resolve()

  /** The stretches on which a hand rests: nothing moves there by itself. */
  const resting = ref(new Set<Stretch>())

  const track = computed<Track>((before) => {
    if (!live.state || !device.value) return emptyTrack
    const kept = resting.value.has('arriving') ? before?.arriving.map(({ call }) => call.id) : undefined
    return trackOf(live.state, device.value, { next: chosenId.value, carried: carriedId.value }, now.value, kept)
  })
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

  const slots = computed(() => Object.values(live.company?.slots ?? {}).map(slot => ({ slot, call: parkedIn(live.state!, slot.id) ?? null })))

  /** The other side of a call, by name or number: for the eye, which sees the number and the line beside it. */
  function shownName(call: Call): string {
    return nameOfOther(t, call, device.value, directory.nameOf)
  }

  /** The same for the ear, and for sentences: two of one name are told apart. */
  function otherName(call: Call): string {
    const name = shownName(call)
    return hasTwin(name) ? apart(t, name, call, directory.lineName(call)) : name
  }
  /** How many of one's calls bear each name. */
  const namesakes = computed(() => {
    const counts = new Map<string, number>()
    for (const { call } of [...arriving.value, ...inHand.value, ...passedOn.value]) {
      const name = shownName(call)
      counts.set(name, (counts.get(name) ?? 0) + 1)
    }
    return counts
  })
  const hasTwin = (name: string) => (namesakes.value.get(name) ?? 0) > 1

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
    refusedFor.value = null
    const id = crypto.randomUUID()
    try {
      const { seq } = await $fetch<RequestDone>('/api/requests', { method: 'POST', body: { id, device: device.value, ...request } })
      // Whatever is done next is meant for the picture after this.
      await live.reached(seq)
      now.value = live.now()
      const words = live.state && device.value && actWords(request, scene(device.value))
      if (words) say(words)
      done.value++
      if ('call' in request && request.call === carriedId.value) carriedId.value = null
      return true
    }
    catch (error) {
      refuse(sentenceOf(error))
      if ('call' in request) refusedFor.value = request.call
      return isUnknown(error) && await findOut(id)
    }
  }

  /** The answer never came: whether it was done is asked as soon as somebody can say. */
  async function findOut(id: string): Promise<boolean> {
    notice.value = t('track.itIsntKnownYetWhether')
    await until(() => live.working).toBe(true, { timeout: longestFindingOut })
    try {
      const { carriedOut, sentence } = await $fetch<RequestOutcome>(`/api/requests/${id}`)
      notice.value = carriedOut ? null : t('track.thatWasNotDoneTry', { sentence: sentence ?? t('track.theExchangeWasNotReached') })
      return carriedOut
    }
    catch {
      notice.value = t('track.itIsntKnownWhetherThat')
      return false
    }
  }

  function rest(stretch: Stretch, is: boolean): void {
    const stretches = new Set(resting.value)
    if (is) stretches.add(stretch)
    else stretches.delete(stretch)
    resting.value = stretches
  }

  /** Says something as soon as what is being said has been heard. The same words twice are news twice. */
  function say(text: string, rank: Rank = 'own', about: CallId | null = null): void {
    announce({ text, rank, about })
  }

  function announce(announcement: Announcement): void {
    announcements.put(announcement, steady())
    speak()
  }

  function speak(): void {
    const next = announcements.next(steady(), live.now())
    if (next) said.value = [...said.value.slice(-mostSaid), { ...next, id: (said.value.at(-1)?.id ?? 0) + 1 }]
    const due = announcements.due(steady())
    if (due === null) return
    untilHeard.value = due
    later.start()
  }
  const untilHeard = ref(0)
  const later = useTimeoutFn(speak, untilHeard, { immediate: false })

  /** Shows and says what could not be done. */
  function refuse(text: string): void {
    notice.value = text
  }

  function scene(own: DeviceId): Scene {
    return {
      state: live.state!,
      device: own,
      nameOf: directory.nameOf,
      lineName: directory.lineName,
      greeting: call => directory.greeting(call, live.now()),
      departmentOf: taker => directory.person(taker)?.departmentName ?? null,
      hasTwin,
      saysWords: preferences.saysWords,
      timeOf: at => shownAt(at).format('H:mm'),
      t,
    }
  }

  function follow(happenings: Happening[]): void {
    const own = device.value
    if (!own || !live.state) return
    for (const { event, before, state } of happenings) {
      const board = operates.value && boardNews(t, state, event, own, directory.nameOf)
      if (board) announce(board)
      // A call on its way again has not said goodbye.
      if (event.type === 'transferred') farewells.value = farewells.value.filter(known => known.id !== event.call)
      for (const { leaves, ...tiding } of tidingsOf({ ...scene(own), state }, event, before)) {
        if (leaves) farewell(tiding.about, leaves, tiding.text)
        announce(tiding)
      }
    }
  }

  function farewell(id: CallId, stretch: Stretch, text: string): void {
    farewells.value = [...farewells.value.filter(known => known.id !== id), { id, stretch, text, until: steady() + farewellStays }]
  }

  /** Chooses the arriving call that Enter is to answer; null leaves it to the most urgent. */
  function choose(call: CallId | null): void {
    done.value++
    chosenId.value = call
  }

  /** Makes a ringing call silent here; it can still be answered. */
  function hush(call: CallId): void {
    quiet.value = new Set([...quiet.value, call])
  }

  /** Picks a call up from the track, to be put down on whoever the field or the pointer names. */
  function carry(call: CallId | null): void {
    carriedId.value = call
    if (call) say(t('track.carryingSayWhoItIs', { name: otherName(live.state!.calls.get(call)!) }), 'urgent')
  }

  /** Moves the clock of the screen on. */
  function tick(): void {
    const before = now.value
    now.value = live.now()
    if (device.value && live.state) {
      const look = scene(device.value)
      for (const ribbon of [...arriving.value, ...inHand.value]) {
        const late = lateness(look, ribbon, before, now.value)
        if (late) announce(late)
      }
    }
    if ([...quiet.value].some(call => !live.state?.calls.get(call))) quiet.value = new Set([...quiet.value].filter(call => live.state?.calls.get(call)))
    if (farewells.value.some(known => known.until <= steady())) farewells.value = farewells.value.filter(known => known.until > steady())
  }

  return {
    device,
    operates,
    now,
    track,
    chosen,
    quiet,
    farewells,
    notice,
    said,
    done,
    refusedFor,
    refuse,
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
    shownName,
    otherName,
    ask,
    say,
    follow,
    choose,
    hush,
    carry,
    rest,
    tick,
  }
})
