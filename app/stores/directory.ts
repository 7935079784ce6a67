import { defineStore } from 'pinia'
import type { DeviceId, Party } from '~~/core/calls/model'
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
  const index = computed(() => indexDirectory(company.value.people))
  const floor = computed(() => company.value.departments.map(department => ({
    department,
    people: company.value.people.filter(person => person.department === department.id),
  })))

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
    return live.state?.devices[device]?.name ?? live.state?.groups[device]?.name ?? 'Outside caller'
  }

  return { company, floor, index, load, person, line, nameOf }
})
