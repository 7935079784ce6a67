import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { phrase, type Phrase } from '~~/words/phrase'
import type { Call, CallId } from '~~/core/calls/model'
import { lookUp, personCalling } from '~~/core/company/lookups'
import { triedBefore } from '~~/core/console/ways'
import type { Pointed } from '~~/core/routing/pointing'
import { useContacts } from './contacts'
import { useDesk } from './desk'
import { useDirectory } from './directory'
import { useLive } from './live'
import { useWays } from './ways'
import { say, t } from '~/composables/language'
import { usePresenceWords } from '~/composables/presence-words'

/** `plain`: the caller has asked for whoever is here, and nobody else can be meant. */
interface Place { destination: string, chance: number, because: Phrase | string, plain?: boolean }

/** The keys of the places, first to last, as they are read aloud. */
export const likelyKeys = ['field.rightArrow', 'field.shiftRightArrow', 'field.controlRightArrow'] as const
const mostPlaces = likelyKeys.length
/** How likely whom the caller's own words point to is, when nobody else can be meant, and otherwise. */
const chanceOfSaid = { plain: 0.9, other: 0.4 }
/** Of so many calls what was said is remembered. */
const mostCalls = 40
/** Milliseconds for which a key does nothing on which somebody else has just come to stand: the hand was on its way. */
const justCome = 1_000

/** Where the call in question probably belongs: shown while it rings, a key each while it is in hand. */
export const useLikely = defineStore('likely', () => {
  const desk = useDesk()
  const live = useLive()
  const contacts = useContacts()
  const ways = useWays()
  const directory = useDirectory()
  const presenceWords = usePresenceWords()

  const call = computed<Call | null>(() => desk.baton ?? desk.next?.call ?? null)
  /** Whether they can be taken now: only who is in hand is passed on so. */
  const inHand = computed(() => desk.baton !== null && desk.baton.id === call.value?.id)

  /** Whom callers' words have pointed to, what was said last before the rest. */
  const pointed = shallowRef<ReadonlyMap<CallId, readonly Pointed[]>>(new Map())
  const heard = computed(() => call.value?.caption?.device === call.value?.calling ? call.value?.caption : null)
  watch(heard, () => void listen().catch(() => {
    // Without the server there is no program that understands: nobody is proposed by it.
  }))

  async function listen(): Promise<void> {
    const [id, { company }, text] = [call.value?.id, live, heard.value?.text]
    if (!id || !company || !text) return
    const { pointedIn } = await import('~~/core/routing/pointing')
    const now = pointedIn(company, say(text))
    if (now.length === 0) return
    const before = (pointed.value.get(id) ?? []).filter(({ destination }) => now.every(one => one.destination !== destination))
    pointed.value = new Map([...[...pointed.value].slice(-mostCalls), [id, [...now, ...before.map(one => ({ ...one, plain: false }))]]])
    if (now[0]!.plain && desk.baton?.id === id) tell(now[0]!, id)
  }

  /** Says whom the caller asks for, the key that leads there, and what stands against it. */
  function tell({ destination, words }: Pointed, id: CallId): void {
    const at = destinations.value.findIndex(place => place.destination === destination)
    if (at < 0) return
    const presence = live.presences.get(destination)
    const against = destinations.value[at]!.tried ?? (presence && !presence.lit ? presenceWords.brief(presence, live.now()) : null)
    const key = t(likelyKeys[at]!)
    desk.say(t('likely.callerPointsTo', { words, name: directory.nameOf(destination), key, more: against ? `: ${against}` : '' }), 'calls', id)
  }

  const destinations = computed(() => {
    const { telephones = {}, groups = {} } = live.company ?? {}
    const said = (call.value && pointed.value.get(call.value.id)) ?? []
    const places = (plain: boolean) => said.filter(one => one.plain === plain).map(({ destination, words }): Place =>
      ({ destination, plain, chance: plain ? chanceOfSaid.plain : chanceOfSaid.other, because: phrase('likely.said', { words }) }))
    const all: Place[] = [...places(true), ...(call.value ? contacts.cardOf(call.value)?.likely ?? [] : []), ...places(false)]
    const [from, console, caller] = [call.value?.recall?.from, ways.console(), live.company && call.value ? personCalling(live.company, call.value) : null]
    const isHere = (id: string) => {
      const telephone = lookUp(telephones, id)
      return telephone ? id !== desk.device && (caller === null || telephone.person !== caller) : Boolean(lookUp(groups, id))
    }
    const there = all.filter(({ destination }, at) => isHere(destination)
      && all.findIndex(other => other.destination === destination) === at).slice(0, mostPlaces)
    const inVain = ({ destination, plain }: Place) => destination === from && !plain
    // Who has just let this caller ring in vain is not proposed before the others, unless the caller asks for nobody else: then the others would be wrong.
    // The order is found before the call is in hand: only words change it later.
    return [...there.filter(place => !inVain(place)), ...there.filter(inVain)]
      .map(place => ({ ...place, tried: console && call.value && triedBefore(console, call.value, place.destination) }))
  })
  const chances = computed(() => new Map(destinations.value.map(({ destination, chance }) => [destination, chance])))

  /** When somebody else came to stand on a key while the same call was in question. */
  const comeAt = new Map<number, number>()
  watch([() => call.value?.id, () => destinations.value.map(({ destination }) => destination)] as const, ([id, now], [idBefore, before]) => {
    if (id !== idBefore) return comeAt.clear()
    for (const [at, destination] of now.entries()) if (before[at] !== undefined && before[at] !== destination) comeAt.set(at, performance.now())
  }, { flush: 'sync' })

  /** Passes the call in hand on to one of them, as Enter would, or asks there first. */
  async function take(index: number, askFirst = false): Promise<void> {
    const place = destinations.value[index]
    if (!desk.baton) return desk.say(t('field.noCallInHand'))
    if (!place) return desk.say(t('field.nothingIsKnownOfWhere'))
    if (!ways.stillInHand()) return
    const name = directory.nameOf(place.destination)
    if (performance.now() - (comeAt.get(index) ?? -Infinity) < justCome) return desk.refuse(t('likely.hasJustComeHere', { name }))
    const found = ways.to(place.destination)
    const way = askFirst ? found.find(({ id }) => id === 'ask') : found[0]
    if (way) await ways.perform(way.deed)
    else desk.refuse(t('field.nobodyCanBeAskedFirst', { name }))
  }

  return { destinations, chances, inHand, take }
})
