import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { localTime } from '~~/core/calendar/zones'
import type { Call, DeviceId, Party } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import type { Group, Line, Zone } from '~~/core/company/company'
import { contactOfEntry, entriesOf } from '~~/core/directory/entries'
import { nobodyPreferred, type Preferred } from '~~/core/directory/preference'
import type { DirectoryEntry, Hit } from '~~/core/directory/search'
import { greetingAt } from '~~/core/greetings/greeting'
import { lookUp, ownerOfMobile, withNumber } from '~~/core/company/lookups'
import { say, t } from '~/composables/language'
import { later } from '~/composables/later'
import { formatNumber, readDialled } from '~/composables/numbers'
import { Finder, searchingThread } from '~/search/finder'
import { useContacts } from './contacts'
import { useLive } from './live'
import { useSession } from './session'
import { useWhereabouts } from './whereabouts'

/** Of very many: one order that is made once, not with every two that are compared. */
const byNumber = new Intl.Collator('en', { numeric: true }).compare

/** Who works here, and how devices are called on the screen: as the company is at this moment. */
export const useDirectory = defineStore('directory', () => {
  const live = useLive()
  const session = useSession()
  const contacts = useContacts()
  const whereabouts = useWhereabouts()

  const entries = computed(() => live.company ? entriesOf(t, live.company, whereabouts.occupants) : [])
  /** Groups and queues are found like people: by name, number, and what they are for. */
  const everything = computed(() => [...entries.value, ...contacts.entries])
  const finder = new Finder(typeof Worker === 'undefined' ? null : searchingThread)
  // An index of many is begun before anybody types, and when everybody is in sight.
  watch(everything, () => void later(async () => finder.become(everything.value)), { flush: 'post' })

  /** The best for what was typed, among everybody as they are now; of many people the answer comes a moment later. */
  function search(typed: string, limit: number, preferred: Preferred = nobodyPreferred): Hit[] | Promise<Hit[]> {
    finder.become(everything.value)
    return finder.search(typed, limit, preferred)
  }
  const people = computed(() => entries.value.filter(entry => !entry.isGroup && !entry.isZone))
  const byTelephone = computed(() => new Map(people.value.flatMap(entry => [entry.id, ...entry.telephones].map(id => [id, entry]))))
  const lines = computed(() => Object.values(live.company?.lines ?? {}))
  /** Telephones of places are found, and stand on no floor. */
  const staff = computed(() => people.value.filter(({ id }) => live.company?.telephones[id]?.person !== null))
  /** Each department with its people by their numbers, and the group that rings whoever of them is free. */
  const floor = computed(() => Object.values(live.company?.departments ?? {}).sort((a, b) => a.position - b.position).map(department => ({
    department,
    site: live.company!.sites[department.site]?.name ?? '',
    group: Object.values(live.company!.groups).find(group => group.department === department.id && group.distribution !== 'queue')?.id ?? null,
    people: staff.value.filter(person => person.department === department.id).sort((a, b) => byNumber(a.extension, b.extension)),
  })))

  function group(id: DeviceId): Group | undefined {
    return live.company?.groups[id]
  }

  function zone(id: DeviceId): Zone | undefined {
    return live.company?.zones[id]
  }

  function siteName(id: string): string {
    return live.company?.sites[id]?.name ?? ''
  }

  /** Whose telephone it is. */
  function person(device: DeviceId): DirectoryEntry | undefined {
    return byTelephone.value.get(device)
  }

  /** Whether what was found is still there: somebody of ours, a place, a group, loudspeakers, a duty, or a contact. */
  function isThere(id: string): boolean {
    const outside = contactOfEntry(id)
    if (outside !== null) return contacts.known.has(outside)
    const { groups = {}, zones = {}, duties = {} } = live.company ?? {}
    return person(id) !== undefined || [groups, zones, duties].some(all => Object.hasOwn(all, id))
  }

  /** The name of somebody who works here, also of one without a telephone. */
  function personName(id: string): string {
    const known = live.company && lookUp(live.company.people, id)
    return known ? `${known.first} ${known.last}` : t('track.somebodyWhoIsNotHere')
  }

  function line(id: string | null): Line | undefined {
    return id === null ? undefined : live.company?.lines[id]
  }

  /** What a call came in on, in words. */
  function lineName(call: Call): string {
    const own = line(call.line)
    if (own) return own.name
    const rung = call.story.find(({ type }) => type === 'delivered')?.device
    return rung === undefined || rung === session.me?.device ? t('track.yourExtension') : t('track.theExtensionOf', { name: nameOf(rung) })
  }

  /** Minutes since midnight, by the clock of the house. */
  function minuteOfDay(at: number): number {
    return Math.floor(localTime(live.company?.settings.zone ?? 'UTC', at) / 60_000) % (24 * 60)
  }

  /** How whoever calls on a line is greeted, until somebody else has had the call; null where there is nothing to greet with. */
  function greeting(call: Call, now: number): string | null {
    const own = line(call.line)
    const answers = call.story.filter(step => step.type === 'established').length
    return own && !call.recall && answers < 2 ? greetingAt(t, own, minuteOfDay(live.wall(now)), contacts.of(call.party?.number)?.language) : null
  }

  /** The name of a device of ours, or of an outside party: as we know them, else as the network says. */
  function nameOf(device: DeviceId, party: Party | null = null): string {
    const owner = party?.number && live.company && ownerOfMobile(live.company, party.number)
    if (owner) return t('track.personNameMobile', { personName: personName(owner) })
    if (party) return contacts.of(party.number)?.name ?? party.name ?? (party.number ? formatNumber(party.number) : t('common.numberWithheld'))
    const outside = contactOfEntry(device)
    if (outside !== null) return contacts.known.get(outside)?.name ?? t('track.aContactThatIsNot')
    const known = person(device)
    if (known) return `${known.first} ${known.last}`.trim()
    return say(live.company?.duties[device]?.name ?? (live.company && deviceName(live.company, device)) ?? t('track.outsideCaller'))
  }

  /** A destination as it was named: an id, a short number of ours, or a number outside. */
  function destinationName(to: string): string {
    const dialled = readDialled(to)
    const ours = live.company && dialled.kind === 'inside'
      ? withNumber(live.company, dialled.digits)
      : null
    if (ours) return nameOf(ours.id)
    return dialled.kind === 'outside' ? formatNumber(dialled.e164) : to === '' ? t('track.aNumberOutside') : nameOf(to)
  }

  /** The number that reaches a telephone from inside. */
  function numberOf(device: DeviceId): string {
    return live.company?.telephones[device]?.number ?? ''
  }

  return { floor, search, people, lines, person, personName, isThere, group, zone, siteName, line, lineName, greeting, nameOf, destinationName, numberOf }
})
