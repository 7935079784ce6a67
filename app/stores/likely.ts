import { defineStore } from 'pinia'
import { computed } from 'vue'
import type { Call } from '~~/core/calls/model'
import { lookUp } from '~~/core/company/lookups'
import { triedBefore } from '~~/core/console/ways'
import { useContacts } from './contacts'
import { useDesk } from './desk'
import { useDirectory } from './directory'
import { useLive } from './live'
import { useWays } from './ways'
import { t } from '~/composables/language'

/** Where the call in question probably belongs: shown while it rings, a key each while it is in hand. */
export const useLikely = defineStore('likely', () => {
  const desk = useDesk()
  const live = useLive()
  const contacts = useContacts()
  const ways = useWays()
  const directory = useDirectory()

  const call = computed<Call | null>(() => desk.baton ?? desk.next?.call ?? null)
  const destinations = computed(() => {
    const { telephones = {}, groups = {} } = live.company ?? {}
    const known = call.value ? contacts.cardOf(call.value)?.likely ?? [] : []
    const there = known.filter(({ destination }) => destination !== desk.device && Boolean(lookUp(telephones, destination) ?? lookUp(groups, destination)))
    const [from, console] = [call.value?.recall?.from, ways.console()]
    // Who has just let this caller ring in vain is not proposed before the others; the order is found before the call is in hand, and stays.
    return [...there.filter(({ destination }) => destination !== from), ...there.filter(({ destination }) => destination === from)]
      .map(place => ({ ...place, tried: console && call.value && triedBefore(console, call.value, place.destination) }))
  })
  const chances = computed(() => new Map(destinations.value.map(({ destination, chance }) => [destination, chance])))
  /** Whether they can be taken now: only who is in hand is passed on so. */
  const inHand = computed(() => desk.baton !== null && desk.baton.id === call.value?.id)

  /** Passes the call in hand on to one of them, as Enter would, or asks there first. */
  async function take(index: number, askFirst = false): Promise<void> {
    const place = destinations.value[index]
    if (!desk.baton) return desk.say(t('field.noCallInHand'))
    if (!place) return desk.say(t('field.nothingIsKnownOfWhere'))
    if (!ways.stillInHand()) return
    const found = ways.to(place.destination)
    const way = askFirst ? found.find(({ id }) => id === 'ask') : found[0]
    if (way) await ways.perform(way.deed)
    else desk.refuse(t('field.nobodyCanBeAskedFirst', { name: directory.nameOf(place.destination) }))
  }

  return { destinations, chances, inHand, take }
})
