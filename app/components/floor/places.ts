import type { Front } from '~~/core/console/floor'
import type { Department } from '~~/core/company/company'
import type { DirectoryEntry } from '~~/core/directory/search'

/** A department on the floor. */
export interface Block { department: Department, site: string, group: string | null, people: DirectoryEntry[] }

/** People's windows side by side, the plate of a department, or a place that stays empty. */
export interface Place { people?: DirectoryEntry[], block?: Block }

/** What stands where, from top to bottom and column by column, in parts of as much as is in sight at once. `abreast`: people side by side in a place. */
export function placesOf(departments: readonly Block[], { gaps, columns, rows }: Pick<Front, 'gaps' | 'columns' | 'rows'>, abreast: number): Place[][] {
  const all = departments.flatMap((block, index): Place[] => [
    ...Array.from({ length: gaps[index] ?? 0 }, () => ({})), { block },
    ...Array.from({ length: Math.ceil(block.people.length / abreast) }, (_, row) => ({ people: block.people.slice(row * abreast, (row + 1) * abreast) })),
  ])
  const most = columns * rows
  return Array.from({ length: Math.ceil(all.length / most) }, (_, part) => all.slice(part * most, (part + 1) * most))
}
