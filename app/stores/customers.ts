import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import type { CallId } from '~~/core/calls/model'
import type { CustomerKnown } from '~~/shared/customers'
import { useContacts } from './contacts'
import { useLive } from './live'

/** What the house's customer system says of whoever calls: asked once for each call, and no call waits for it. */
export const useCustomers = defineStore('customers', () => {
  const live = useLive()
  const contacts = useContacts()
  const known = ref(new Map<CallId, CustomerKnown>())
  const asked = new Set<CallId>()

  function of(call: CallId, number: string | null): CustomerKnown | undefined {
    if (number !== null && contacts.sees && !asked.has(call)) {
      asked.add(call)
      void ask(call, number)
    }
    return known.value.get(call)
  }

  async function ask(call: CallId, number: string): Promise<void> {
    try {
      const answer = await $fetch<CustomerKnown>('/api/customers', { query: { number: number.slice(0, 40) } })
      if (asked.has(call)) known.value.set(call, answer)
    }
    catch {
      // The call goes on without; whoever looks next asks again.
      asked.delete(call)
    }
  }

  watch([() => live.state?.calls, () => contacts.sees], ([calls, sees]) => {
    for (const id of asked) {
      if (sees && calls?.has(id)) continue
      asked.delete(id)
      known.value.delete(id)
    }
  })

  return { of }
})
