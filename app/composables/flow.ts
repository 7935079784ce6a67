import type { Company } from '~~/core/company/company'
import { lookUp } from '~~/core/company/lookups'
import type { Link } from '~~/core/figures/report'
import { flowEnds } from '~~/core/figures/words'

/** As many ends at the right as can be told apart; the others are one. */
const mostEnds = 18

/** Where calls go, with people by their departments, and what is rare together. */
export function flowOf(links: readonly Link[], company: Company | null, nameOf: (id: string) => string): { links: Link[], nameOf: (end: string) => string } {
  const departmentOf = (id: string) => {
    const person = company && lookUp(company.people, lookUp(company.telephones, id)?.person ?? '')
    return person ? lookUp(company.departments, person.department)?.name ?? null : null
  }
  const merged = (end: string) => {
    const [kind, id] = [end.slice(0, end.indexOf(' ') + 1), end.slice(end.indexOf(' ') + 1)]
    if (kind === '' || kind === 'line ') return end
    if (id.startsWith('mailbox:')) return 'mailbox'
    const department = departmentOf(id)
    // Whose direct number was called matters less than that it was.
    return department ? kind === 'at ' ? `at #${t('figures.aTelephoneDirectly')}` : `${kind}#${department}` : end
  }
  const sums = new Map<string, Link>()
  const add = ({ from, to, calls }: Link) => {
    const known = sums.get(`${from}\n${to}`)
    sums.set(`${from}\n${to}`, { from, to, calls: (known?.calls ?? 0) + calls })
  }
  for (const { from, to, calls } of links) add({ from: merged(from), to: merged(to), calls })
  const ends = new Map<string, number>()
  for (const { to, calls } of sums.values()) if (!to.startsWith('at ')) ends.set(to, (ends.get(to) ?? 0) + calls)
  const kept = new Set([...ends].sort((a, b) => b[1] - a[1]).slice(0, mostEnds).map(([end]) => end))
  const all = [...sums.values()]
  sums.clear()
  for (const link of all) add({ ...link, to: link.to.startsWith('at ') || kept.has(link.to) ? link.to : 'others' })
  return {
    links: [...sums.values()],
    nameOf: (end) => {
      const gap = end.indexOf(' ')
      if (gap < 0) return end === 'others' ? t('figures.elsewhere') : flowEnds[end] ? t(flowEnds[end]) : end
      const id = end.slice(gap + 1)
      return id.startsWith('#') && end.slice(0, gap) !== 'line' && id !== '#direct' ? id.slice(1) : nameOf(id)
    },
  }
}
