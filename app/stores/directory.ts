import { defineStore } from 'pinia'
import type { DeviceId, Group, Party } from '~~/core/calls/model'
import { deviceName } from '~~/core/calls/names'
import { type DirectoryEntry, indexDirectory } from '~~/core/directory/search'
import { formatNumber } from '~~/core/numbers/dialled'
import type { CompanyDirectory, LineInfo } from '~~/shared/directory'
import { useLive } from './live'

/** Who works here, and how devices are called on the screen. */
export const useDirectory = defineStore('directory', () => {
  const company = shallowRef<CompanyDirectory>({ departments: [], people: [], lines: [] })
  const live = useLive()

  const people = computed(() => new Map(company.value.people.map(person => [person.extension, person])))
  const lines = computed(() => new Map(company.value.lines.map(line => [line.id, line])))
  const groups = computed(() => Object.values(live.state?.groups ?? {}))
  /** Groups and queues are found like people: by name, number, and what they are for. */
  const groupIds = computed(() => groups.value.map(group => group.id).join())
  const index = computed(() => {
    void groupIds.value
    return indexDirectory([...company.value.people, ...groups.value.map(groupEntry)])
  })
  const floor = computed(() => company.value.departments.map(department => ({
    department,
    people: company.value.people.filter(person => person.department === department.id),
  })))

  function groupEntry({ id, name, number }: Group): DirectoryEntry {
    const handles = company.value.people.find(person => person.department === id.replace(/^(group|queue):/, ''))?.handles ?? []
    return {
      extension: id, first: '', last: name, nickname: null, department: id, departmentName: '', site: '', role: id.startsWith('group:') ? 'Group' : 'Queue', room: number,
      handles, mobile: null, isGroup: true,
    }
  }

  function group(id: DeviceId): Group | undefined {
    return live.state?.groups[id]
  }

  async function load(): Promise<void> {
    company.value = await $fetch<CompanyDirectory>('/api/directory')
  }

  function person(device: DeviceId): DirectoryEntry | undefined {
    return people.value.get(device)
  }

  function line(id: string | null): LineInfo | undefined {
    return id ? lines.value.get(id) : undefined
  }

  /** The name of a device of ours, or of an outside party as far as it is known. */
  function nameOf(device: DeviceId, party: Party | null = null): string {
    if (party) return party.name ?? (party.number ? formatNumber(party.number) : 'Number withheld')
    const known = person(device)
    if (known) return `${known.first} ${known.last}`
    return (live.state && deviceName(live.state, device)) ?? 'Outside caller'
  }

  return { company, floor, index, load, person, group, line, nameOf }
})
