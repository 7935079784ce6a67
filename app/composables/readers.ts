import { computed, type Ref, ref } from 'vue'
import type { Destination } from './destinations'
import { useDirectory } from '~/stores/directory'

/** Whoever can be left a message, a person or a group, while a name is being typed; who is chosen stays among them. */
export function useReaders(to: Ref<string>) {
  const directory = useDirectory()
  const found = ref<Destination[]>([])
  async function search(typed: string): Promise<void> {
    const hits = await directory.search(typed, 8)
    found.value = hits.flatMap(({ id }) => {
      const [person, group] = [directory.person(id), directory.group(id)]
      if (group) return [{ value: id, label: group.name }]
      return person && person.telephones.length > 0 ? [{ value: id, label: `${person.first} ${person.last}, ${person.departmentName}` }] : []
    })
  }
  const options = computed(() => to.value && !found.value.some(option => option.value === to.value)
    ? [{ value: to.value, label: directory.nameOf(to.value) }, ...found.value]
    : found.value)
  return { options, search }
}
