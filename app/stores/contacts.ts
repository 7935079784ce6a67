import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Call, CallId } from '~~/core/calls/model'
import { contactEntry } from '~~/core/directory/entries'
import { fold } from '~~/core/directory/folding'
import type { DirectoryEntry } from '~~/core/directory/search'
import { readCaller } from '~/composables/numbers'
import { seesCallers } from '~~/shared/roles'
import type { CallerCard, Contact } from '~~/shared/contacts'
import { useAsking } from '~/composables/asking'
import { t } from '~/composables/language'
import { useLive } from './live'
import { useSession } from './session'

type Changes = { latest: number, changed: Contact[], removed: string[] }

/** Whom we know outside, and what is known of whoever calls. Staff members see none of it. */
export const useContacts = defineStore('contacts', () => {
  const live = useLive()
  const session = useSession()
  const known = shallowRef<ReadonlyMap<string, Contact>>(new Map())
  /** What was asked for each call, once: nothing that is shown for it changes by itself. */
  const cards = ref(new Map<CallId, CallerCard>())
  const asked = new Set<CallId>()
  let latest = 0

  const sees = computed(() => session.me !== null && seesCallers(session.me.role))

  async function load(): Promise<void> {
    const since = latest
    const who = session.me?.signIn
    const changes = await $fetch<Changes>('/api/contacts', { query: { since } })
    if (!sees.value || session.me?.signIn !== who || latest !== since || changes.latest === since) return
    const next = new Map(known.value)
    for (const contact of changes.changed) next.set(contact.id, contact)
    for (const id of changes.removed) next.delete(id)
    latest = changes.latest
    known.value = next
  }

  /** Asks for what has changed. */
  const refresh = useAsking(load)
  watch([() => live.news.contacts, () => live.connected, sees, () => session.me?.signIn], (_now, [, , , before]) => {
    // What one's own contacts were is nothing for who signs in next.
    if (!sees.value || session.me?.signIn !== before) forget()
    if (sees.value && live.connected) void refresh()
  }, { immediate: true })

  /** Whoever signs in next at this browser may not be allowed to see it. */
  function forget(): void {
    known.value = new Map()
    cards.value.clear()
    asked.clear()
    latest = 0
  }

  /** By number: somebody of a company before the company itself. */
  const byNumber = computed(() => {
    const found = new Map<string, Contact>()
    for (const contact of known.value.values()) {
      for (const { number } of contact.numbers) if (!found.has(number) || found.get(number)!.kind === 'company') found.set(number, contact)
    }
    return found
  })
  /** As the search finds them; whoever has not changed is the same entry as before. */
  let found = new Map<string, { contact: Contact, company: string, entry: DirectoryEntry }>()
  const entries = computed(() => {
    const before = found
    found = new Map([...known.value.values()].map((contact) => {
      const company = companyOf(contact)?.name ?? ''
      const same = before.get(contact.id)
      return [contact.id, same?.contact === contact && same.company === company ? same : { contact, company, entry: contactEntry(t, contact, company) }]
    }))
    return [...found.values()].map(({ entry }) => entry)
  })
  const categories = computed(() => [...new Set([...known.value.values()].map(({ category }) => category).filter(Boolean))].sort((a, b) => a.localeCompare(b)))
  const companies = computed(() => [...known.value.values()].filter(({ kind }) => kind === 'company').sort((a, b) => a.name.localeCompare(b.name)))

  function of(number: string | null | undefined): Contact | undefined {
    return number ? byNumber.value.get(readCaller(number)) : undefined
  }

  function companyOf(contact: Contact): Contact | undefined {
    return contact.company === null ? undefined : known.value.get(contact.company)
  }

  /** What the dialog opens with for whoever has a number: the contact that they are, or what is known of somebody who is none yet. */
  function pageOf(number: string | null, name: string | null): { id: string } | { id: null, name: string, number: string | null } {
    const contact = of(number)
    return contact ? { id: contact.id } : { id: null, name: name ?? '', number }
  }

  /** Those who may be the same: with this name, or one of these numbers. */
  function alike(name: string, numbers: readonly string[], except: string | null): Contact[] {
    const wanted = fold(name.trim())
    const digits = new Set(numbers.map(readCaller))
    return [...known.value.values()].filter(contact => contact.id !== except
      && ((wanted !== '' && fold(contact.name) === wanted) || contact.numbers.some(({ number }) => digits.has(number))))
  }

  /** What is known of whoever calls; asked for the first time somebody looks. */
  function cardOf(call: Call): CallerCard | undefined {
    if (sees.value && call.direction === 'inbound' && !asked.has(call.id)) {
      asked.add(call.id)
      void askFor(call)
    }
    return cards.value.get(call.id)
  }

  async function askFor({ id, party, line }: Call): Promise<void> {
    try {
      const query = { ...(party?.number && { number: party.number.slice(0, 40) }), ...(line && { line }) }
      const card = await $fetch<CallerCard>('/api/callers', { query })
      if (asked.has(id)) cards.value.set(id, card)
    }
    catch {
      // Asked again by whoever looks next: the call goes on without.
      asked.delete(id)
    }
  }

  watch(() => live.state?.calls, (calls) => {
    for (const id of asked) {
      if (calls?.has(id)) continue
      asked.delete(id)
      cards.value.delete(id)
    }
  })

  return { known, companies, categories, entries, sees, refresh, of, companyOf, pageOf, alike, cardOf }
})
