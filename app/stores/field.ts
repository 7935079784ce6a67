import { defineStore } from 'pinia'
import { computed, ref, shallowRef, toRaw, watch } from 'vue'
import type { CallId, DeviceId } from '~~/core/calls/model'
import { spelled } from '~~/core/numbers/spelling'
import type { Deed } from '~~/core/console/console'
import { afterChoice, chosenOften } from '~~/core/console/habit'
import { standingDeed } from '~~/core/console/keys'
import type { Way } from '~~/core/console/ways'
import { spell } from '~~/core/durations/durations'
import { lookUp } from '~~/core/company/lookups'
import type { Preferred } from '~~/core/directory/preference'
import type { Hit } from '~~/core/directory/search'
import { say, t } from '~/composables/language'
import { formatNumber, readDialled } from '~/composables/numbers'
import { useDesk } from './desk'
import { useDirectory } from './directory'
import { useLikely } from './likely'
import { useLive } from './live'
import { usePreferences } from './preferences'
import { useWays } from './ways'

const mostHits = 24
const shortestNumber = 5

/** "Who is it for?": what is typed, who it may mean, and what the keys do with it. */
export const useField = defineStore('field', () => {
  const desk = useDesk()
  const directory = useDirectory()
  const ways = useWays()
  const live = useLive()
  const likely = useLikely()
  const preferences = usePreferences()
  const text = ref('')
  /** Somebody chosen by hand from the floor; typing forgets them. */
  const picked = ref<DeviceId | null>(null)
  const selected = ref(0)
  /** True until what was asked for is done and the field is ready again. */
  const taking = ref(false)

  /** The call that was in hand when it began to be said whom it is for: what is typed is meant for that one. */
  const meant = ref<CallId | null>(null)
  const inHand = () => desk.baton?.id ?? null
  /** Where that call probably belongs, as it was known when typing began. */
  let probable: Preferred['probable'] = new Map()
  /** Whom this operator often chooses, as it was then. */
  let often: ReadonlySet<DeviceId> = new Set()
  watch([() => text.value === '' && picked.value === null, () => desk.done], () => {
    meant.value = inHand()
    probable = likely.chances
    often = chosenOften(preferences.chosen)
  }, { flush: 'sync' })

  /** A digit after # takes from a park slot, after * it parks there. */
  const slotMode = computed(() => text.value.startsWith('#') ? 'take' : text.value.startsWith('*') ? 'park' : null)
  /** A short number of the network, typed whole: it means itself, before anybody whose extension is like it. */
  const short = computed(() => lookUp(live.company?.shortNumbers ?? {}, text.value.trim()))
  const isSearching = computed(() => !slotMode.value && (picked.value !== null || text.value.trim() !== ''))
  /** Who was found for what is typed: at once, or a moment later when there are many to search. */
  const asked = computed(() => !isSearching.value || short.value || picked.value ? [] : directory.search(text.value, mostHits, preferred()))
  const answered = shallowRef<{ text: string, hits: Hit[] }>({ text: '', hits: [] })
  const hits = computed<Hit[]>(() => {
    if (picked.value) return [{ id: picked.value, score: 1, because: null }]
    if (!isSearching.value || short.value) return []
    return settled(asked.value instanceof Promise ? answered.value : { text: text.value, hits: asked.value })
  })
  /** What is typed has no answer yet: who stands there was found for what was typed before, and no key means them. */
  const looking = ref(false)
  watch(asked, (what) => {
    looking.value = what instanceof Promise
    if (what instanceof Promise) void what.then(hits => asked.value === what && found(hits))
  }, { flush: 'sync' })

  function found(hits: Hit[]): void {
    answered.value = { text: text.value, hits }
    looking.value = false
    sayNobody()
  }
  /**
   * Once shown, nobody moves while the same is typed, whoever has come, gone or been renamed meanwhile: whoever is new stands behind the others, and whoever is
   * no more keeps their place, and nothing leads there. What is under the mark is who was meant.
   */
  let shown: { text: string, hits: Hit[] } = { text: '', hits: [] }
  function settled(now: { text: string, hits: Hit[] }): Hit[] {
    const before = shown.text === now.text ? shown.hits : []
    const known = new Map(now.hits.map(hit => [hit.id, hit]))
    const ids = new Set(before.map(({ id }) => id))
    const hits = [...before.map(hit => known.get(hit.id) ?? hit), ...now.hits.filter(({ id }) => !ids.has(id))]
    shown = { text: now.text, hits }
    return hits
  }
  /** As things stand at the moment of asking: nobody moves when that changes later. */
  function preferred(): Preferred {
    return { probable, often, busy: new Set([...toRaw(live.presences)].flatMap(([id, { lit }]) => lit ? [] : [id])) }
  }

  const best = computed(() => hits.value[Math.min(selected.value, hits.value.length - 1)] ?? null)

  /** Whoever is marked has been taken out of the company, or out of the contacts, since they were found. */
  const isGone = computed(() => best.value !== null && !directory.isThere(best.value.id))

  /** The ways that lead from here to whoever is marked, or to the number typed; the first is what Enter does. */
  const leading = computed<Way[]>(() => {
    if (best.value) return isGone.value ? [] : ways.to(best.value.id)
    return isSearching.value ? toTyped(text.value) : []
  })

  function toTyped(typed: string): Way[] {
    if (short.value) return ways.toNumber(short.value.number, `${short.value.number} (${short.value.name})`)
    const dialled = readDialled(typed)
    if (dialled.kind === 'invalid' || typed.replace(/\D/g, '').length < shortestNumber) return []
    return ways.toNumber(typed.trim(), dialled.kind === 'outside' ? formatNumber(dialled.e164) : dialled.digits)
  }

  /** Why what looks like a number can't be dialled, or null. */
  const wrongNumber = computed(() => {
    if (!isSearching.value || hits.value.length > 0 || !spelled(text.value)) return null
    const dialled = readDialled(text.value)
    return dialled.kind === 'invalid' ? say(dialled.why) : null
  })

  /** What Enter does while nothing has been typed. */
  const standing = computed(() => {
    const console = ways.console()
    return console && standingDeed(console)
  })

  function clear(): void {
    text.value = ''
    picked.value = null
    selected.value = 0
    shown = { text: '', hits: [] }
  }

  /** By hand: nothing that was typed is meant any more. */
  function empty(): void {
    if (isSearching.value || slotMode.value) desk.say(t('field.emptied'))
    clear()
  }

  /** What was meant is done: only what was typed behind it meanwhile stays. */
  function keepTheRest(meant: string): void {
    if (text.value === meant) clear()
    else if (text.value.startsWith(meant)) type(text.value.slice(meant.length))
  }

  function type(value: string): void {
    text.value = value
    picked.value = null
    selected.value = 0
    const digit = /^[#*](\d)$/.exec(value)?.[1]
    if (digit) void useSlot(Number(digit))
    else if (!looking.value) sayNobody()
  }

  function sayNobody(): void {
    if (isSearching.value && hits.value.length === 0 && leading.value.length === 0) desk.say(t('field.nobodyFound'))
  }

  function pick(id: DeviceId): void {
    picked.value = id
    text.value = directory.nameOf(id)
    selected.value = 0
  }

  /** Takes who waits in a slot, or puts the call in hand into it (null: into the first free one). The tenth has the digit 0. */
  async function useSlot(digit: number | null): Promise<void> {
    const gesture = slotMode.value
    const slot = digit === null ? null : desk.slots[(digit + 9) % 10]?.slot.id
    if (!gesture || slot === undefined || (gesture === 'take' && slot === null)) return
    const deed = ways.aimAt(slot === null ? 'park' : `${gesture} ${slot}`)
    const typed = text.value
    if (!deed) desk.refuse(nothingThere(gesture, slot))
    const done = deed !== null && deed !== 'gone' && await ways.perform(deed)
    if (done || digit !== null) keepTheRest(typed)
  }

  function nothingThere(gesture: 'take' | 'park', slot: DeviceId | null): string {
    const where = slot === null ? '' : directory.nameOf(slot)
    if (gesture === 'take') return t('field.nobodyWaitsInNothingWas', { where })
    const there = desk.slots.find(known => known.slot.id === slot)?.call
    return there && desk.baton ? t('field.thatSlotIsTakenWaits', { name: desk.otherName(there) }) : t('field.thereIsNoCallIn')
  }

  /** Moves the mark by one: among the answers while searching, else among the calls that arrive. */
  function move(by: 1 | -1): void {
    if (isSearching.value) {
      const { length } = hits.value
      if (length > 0) selected.value = (selected.value + by + length) % length
      return
    }
    const calls = desk.arriving.map(ribbon => ribbon.call.id)
    if (calls.length === 0) return
    // In a consultation Enter hands over; the first arrow chooses the most urgent caller instead.
    const at = desk.consultation && !desk.chosen ? (by === 1 ? -1 : 0) : calls.indexOf(desk.next!.call.id)
    desk.choose(calls[(at + by + calls.length) % calls.length]!)
    const { call, due } = desk.next!
    desk.say(`${desk.otherName(call)}, ${directory.lineName(call)}, ${spell(desk.now - due.since)}`)
  }

  /** Whoever was in hand when the name was begun has gone: nothing is done with another caller unless it is said again. */
  function meansAnother(): boolean {
    const now = inHand()
    if (!isSearching.value || meant.value === now || meant.value === null) return false
    const next = desk.baton ? t('field.pressAgainFor', { name: desk.otherName(desk.baton) }) : t('field.pressAgainToCall')
    desk.refuse(t('field.yourCallerHasGoneNothing', { next }))
    meant.value = now
    return true
  }

  /** Takes a way. The field is emptied once it is done; it keeps its text when that was refused, and whatever has been typed meanwhile. */
  async function take(way: { deed: Deed } | null | undefined): Promise<void> {
    const meant = text.value
    if (!way || meansAnother()) return
    const whom = picked.value ?? best.value?.id
    taking.value = true
    const done = await ways.perform(way.deed)
    if (done && whom) preferences.set({ chosen: afterChoice(preferences.chosen, whom) })
    if (done) keepTheRest(meant)
    if (done) desk.choose(null)
    taking.value = false
  }

  return {
    text, picked, selected, taking, hits, slotMode, isSearching, best, isGone, looking, ways: leading, wrongNumber, standing,
    clear, empty, type, pick, useSlot, move, take,
  }
})
