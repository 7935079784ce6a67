import { ref } from 'vue'
import { formatNumber, readDialled } from '~/composables/numbers'
import { useDirectory } from '~/stores/directory'

export interface Destination { value: string, label: string }

/** Where calls can be sent, while a name or a number is being typed: people, groups, and the number itself. */
export function useDestinations() {
  const directory = useDirectory()
  const found = ref<Destination[]>([])
  /** What is offered before anything is typed. */
  let offered: Destination[] = []
  let latest = ''

  function offer(destinations: Destination[]): void {
    offered = destinations
    found.value = destinations
  }

  async function search(typed: string): Promise<void> {
    latest = typed
    const dialled = readDialled(typed)
    const outside = dialled.kind === 'outside' ? [{ value: dialled.e164, label: formatNumber(dialled.e164) }] : []
    const hits = await directory.search(typed, 8)
    if (typed !== latest) return
    const known = hits.flatMap(({ id }) => {
      const person = directory.person(id)
      if (person) return person.telephones.length > 0 ? [{ value: id, label: `${person.first} ${person.last}, ${person.departmentName}`.trim() }] : []
      const group = directory.group(id)
      return group ? [{ value: id, label: group.name }] : []
    })
    found.value = typed.trim() === '' ? offered : [...outside, ...known]
  }

  return { found, search, offer }
}
