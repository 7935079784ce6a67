import { onMounted, ref, type Ref } from 'vue'
import type { CompanyChange } from '~~/core/company/changes'
import type { Owned } from '~~/core/company/house-directory'
import { lookUp } from '~~/core/company/lookups'
import { useLive } from '~/stores/live'
import type { HouseDirectoryState } from '~~/shared/house-directory'

/** What of a person, or of their first telephone, the house's own directory owns: it is changed there alone, and shown here. */
export function useOwned(part: CompanyChange['part'], id: string | null): { ownedAt: Ref<ReadonlySet<string>> } {
  const ownedAt = ref<ReadonlySet<string>>(new Set<string>())
  const live = useLive()

  async function load(): Promise<void> {
    if (id === null || (part !== 'people' && part !== 'telephones')) return
    const telephone = part === 'telephones' ? lookUp(live.company!.telephones, id) : undefined
    const person = telephone ? telephone.rank === 0 ? telephone.person : null : id
    // Should it not be known, the server refuses with the field.
    const state = await $fetch<HouseDirectoryState>('/api/house-directory').catch(() => null)
    const owns = state?.people.find(one => one.person === person && one.gone === null)?.owns ?? []
    const places: Partial<Record<Owned, string>> = { extension: 'number', direct: 'direct' }
    ownedAt.value = new Set(part === 'people'
      ? owns.filter(one => !Object.hasOwn(places, one))
      : [...owns.flatMap(one => places[one] ?? []), ...owns.includes('extension') ? ['person'] : []])
  }
  onMounted(load)
  return { ownedAt }
}
