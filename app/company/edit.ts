import { until } from '@vueuse/core'
import { type CompanyChange, idOf, thingOf } from '~~/core/company/changes'
import type { Company } from '~~/core/company/company'
import { useLive } from '~/stores/live'

/** Until what has been changed has come back from the exchange, milliseconds. */
const longestWait = 2_000

/** Whatever is wrong with each thing is found here, as the forms name it, before the server is asked. */
async function look(changes: readonly CompanyChange[]): Promise<void> {
  const { thingSchemas } = await import('~~/core/company/schema')
  for (const { part, value } of changes) if (value !== null) thingSchemas[part].validateSync(value, { abortEarly: false })
}

/**
 * Changes the company: all of it or nothing, on record, and never over what somebody else has changed since it was seen.
 * @param seen the company as it is on the screen; @param before things that were seen otherwise: when their form was opened
 * @returns how many things are different now
 * @throws ValidationError, or the server's refusal
 */
export async function editCompany(seen: Company, changes: readonly CompanyChange[], before: readonly CompanyChange[] = []): Promise<number> {
  const live = useLive()
  await look(changes)
  const asSeen = changes.map(change => before.find(one => one.part === change.part && idOf(one) === idOf(change)) ?? thingOf(seen, change))
  const { company: shown } = live
  const { changes: different } = await $fetch<{ changes: number }>('/api/company', { method: 'PATCH', body: { seen: asSeen, changes } })
  // Whoever goes on from here goes on from what is so now; should the exchange be away, the change comes with it.
  if (different > 0) await until(() => live.company !== shown).toBe(true, { timeout: longestWait })
  return different
}
