import { type Company, nobody, waitingOnly } from './company'

/** A company as an earlier version kept it, or gave it out as a file, with what it could not know yet. */
export function completed(company: Company): Company {
  const each = <T>(things: Record<string, T> | undefined, more: (id: string) => Partial<T>): Record<string, T> =>
    Object.fromEntries(Object.entries(things ?? {}).map(([id, thing]) => [id, { ...more(id), ...thing }]))
  return {
    ...nobody, ...company, settings: { ...nobody.settings, ...company.settings },
    groups: each(company.groups, () => waitingOnly),
    telephones: each(company.telephones, () => ({ mayListen: false, mayRecord: false })),
    lines: each(company.lines, () => ({ closedText: '', recording: 'onRequest' })),
    // Slots were known by the number in their id, trunks by their id.
    slots: each(company.slots, id => ({ name: id.replace(/^slot:/, '') })),
    trunks: each(company.trunks, id => ({ name: id })),
  }
}
