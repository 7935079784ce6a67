import type { EntityManager } from '@mikro-orm/postgresql'
import { deviceName } from '~~/core/calls/names'
import { missedOutcomes } from '~~/core/calls/record'
import type { Company } from '~~/core/company/company'
import { lookUp } from '~~/core/company/lookups'
import { formatNumber } from '~~/core/numbers/dialled'
import type { Conversation } from '~~/core/routing/conversation'
import { type Experience, likelyDestinations } from '~~/core/routing/likely'
import type { CallerCard } from '~~/shared/contacts'
import { placeOf } from '../numbers/places'
import { companyOfNumber } from './contacts'

/** What is known of whoever calls, beside what their contact says: it is asked for while it rings. */

/** So many of the latest conversations are looked at. */
const most = { number: 60, company: 120, line: 1_000 }
const mostMessages = 5

const columns = 'call, number, line, (extract(epoch from at) * 1000)::float8 as at, device, "group"'

/**
 * @param who asks, by their sign-in: what is another's own is not told
 * @param number E.164 as the network says it; null when it is withheld
 * @param line whose number of ours was called
 * @param now milliseconds since 1970
 */
export async function callerCard(
  em: EntityManager, company: Company, who: string, number: string | null, line: string | null, now: number,
): Promise<CallerCard> {
  const of = number === null ? null : await companyOfNumber(em, who, number)
  const experience = await experienceOf(em, number, of?.numbers ?? [], line)
  const call = {
    caller: of?.caller ?? (number === null ? '' : formatNumber(number, company.settings)), company: of?.company ?? null,
    line, lineName: lookUp(company.lines, line ?? '')?.name ?? 'line', now,
  }
  const { place, kind } = number === null ? { place: '', kind: '' } : await placeOf(number)
  return {
    place, kind, ...await openWith(em, number),
    likely: likelyDestinations(company, experience, call, id => deviceName(company, id) ?? id),
  }
}

async function experienceOf(em: EntityManager, number: string | null, numbers: readonly string[], line: string | null): Promise<Experience> {
  const latest = (where: string, value: unknown, limit: number) =>
    em.execute<Conversation[]>(`select ${columns} from conversation where ${where} order by at desc limit ${limit}`, [value])
  const mine = number === null ? [] : await latest('number = ?', number, most.number)
  return {
    number: mine,
    company: numbers.length > 1 ? await latest('number = any(?)', `{${numbers.join(',')}}`, most.company) : mine,
    line: line === null ? [] : await latest('line = ?', line, most.line),
  }
}

/** What is open with this number: missed calls that nobody has dealt with, messages that nobody has read. */
async function openWith(em: EntityManager, number: string | null): Promise<Pick<CallerCard, 'missed' | 'messages'>> {
  if (number === null) return { missed: 0, messages: [] }
  const [{ missed } = { missed: 0 }] = await em.execute<{ missed: number }[]>(
    `select count(*)::int as missed from call_record r where r.number = ? and r.direction = 'inbound' and r.outcome = any(?)
    and not exists (select 1 from dealt_with d where d.call = r.id)`,
    [number, `{${missedOutcomes.join(',')}}`],
  )
  const messages = await em.execute<CallerCard['messages']>(
    `select "to", text, (extract(epoch from at) * 1000)::float8 as at from message where number = ? and read_at is null order by at desc limit ${mostMessages}`,
    [number],
  )
  return { missed, messages }
}
