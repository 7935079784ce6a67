import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { telephonesOf } from '~~/core/company/lookups'
import type { DirectoryEntry } from '~~/core/directory/search'
import { useDesk } from './desk'
import { useDirectory } from './directory'
import { useLive } from './live'
import { usePreferences } from './preferences'
import { useQueues } from './queues'
import { t } from '~/composables/language'

/** Who is to be seen on the floor: everybody, or those of a site, a department or a queue, or who was free a moment ago. */
export const useFloor = defineStore('floor', () => {
  const directory = useDirectory()
  const live = useLive()
  const desk = useDesk()
  const queues = useQueues()
  const preferences = usePreferences()
  const site = ref<string | null>(null)
  const department = ref<string | null>(null)
  /** Those who were free when that was asked: nobody goes or comes by themselves. */
  const free = ref<ReadonlySet<string> | null>(null)

  const sites = computed(() => [...new Set(directory.floor.map(block => block.site))])
  const departmentsThere = computed(() => directory.floor.filter(block => site.value === null || block.site === site.value).map(block => block.department))
  /** Everybody: one's own department first and oneself at its head. Those who are pinned stand before them, behind oneself, and in their department no more. */
  const whole = computed(() => {
    const people = new Map(directory.floor.flatMap(block => block.people.map(one => [one.id, one] as const)))
    const { company } = live
    const ofPerson = (id: string) => company ? telephonesOf(company, id)[0]?.id ?? id : id
    const own = desk.device ? people.get(directory.person(desk.device)?.id ?? '') : undefined
    const isMine = (block: { department: { id: string } }) => block.department.id === own?.department
    const ordered = [...directory.floor.filter(isMine), ...directory.floor.filter(block => !isMine(block))]
    const pinned = preferences.pinned.flatMap(id => people.get(ofPerson(id)) ?? []).filter(one => one !== own)
    const first = [...own ? [own] : [], ...pinned]
    const behind = (all: DirectoryEntry[]) => all.filter(one => !first.includes(one))
    if (pinned.length === 0) return ordered.map(block => own && isMine(block) ? { ...block, people: [own, ...behind(block.people)] } : block)
    const atHand = { id: 'atHand', name: t('floor.atHand'), site: '', handles: [], position: -1 }
    return [{ department: atHand, site: '', group: null, people: first }, ...ordered.map(block => ({ ...block, people: behind(block.people) }))]
  })
  const departments = computed(() => {
    const members = queues.only && new Set(queues.only.members)
    if (!filtered.value) return whole.value
    return directory.floor.flatMap((block) => {
      if ((site.value !== null && block.site !== site.value) || (department.value !== null && block.department.id !== department.value)) return []
      const people = block.people.filter(({ id }) => (!members || members.has(id)) && (!free.value || free.value.has(id)))
      return people.length > 0 ? [{ ...block, people }] : []
    })
  })
  const filtered = computed(() => queues.only !== null || site.value !== null || department.value !== null || free.value !== null)
  /** What is shown, in words. */
  const words = computed(() => [
    queues.only ? t('floor.whoServesThe', { name: queues.only.name }) : '',
    department.value !== null ? directory.floor.find(block => block.department.id === department.value)?.department.name ?? '' : site.value ?? '',
    free.value ? t('floor.whoWasFreeJustNow') : '',
  ].filter(Boolean).join(', '))

  const after = <T>(all: readonly T[], now: T | null): T | null => all[now === null ? 0 : all.indexOf(now) + 1] ?? null

  function said(): void {
    const count = departments.value.reduce((sum, { people }) => sum + people.length, 0)
    desk.say(filtered.value ? t('floor.onTheFloorOnly', { words: words.value, count }) : t('floor.everybodyOnTheFloor'))
  }

  function nextSite(): void {
    department.value = null
    site.value = after(sites.value, site.value)
    said()
  }

  function nextDepartment(): void {
    const next = after(departmentsThere.value.map(({ id }) => id), department.value)
    department.value = next
    said()
  }

  function onlyFree(): void {
    free.value = free.value ? null : new Set([...live.everybody()].filter(([, presence]) => presence.lit).map(([id]) => id))
    said()
  }

  function everybody(): void {
    site.value = null
    department.value = null
    free.value = null
    if (queues.only) queues.showOnly()
    said()
  }

  return { departments, filtered, words, nextSite, nextDepartment, onlyFree, everybody }
})
