import type { DirectoryEntry } from './search'

/** What makes one list of entries of another: those that are new or different, and the ids of those that are gone. */
export interface Changes { put: DirectoryEntry[], removed: string[] }

/** @param known the entries of before, by their ids */
export function changesTo(known: ReadonlyMap<string, DirectoryEntry>, entries: readonly DirectoryEntry[]): Changes {
  const ids = new Set(entries.map(({ id }) => id))
  const differs = (entry: DirectoryEntry, before: DirectoryEntry | undefined) => before !== entry && JSON.stringify(before) !== JSON.stringify(entry)
  return { put: entries.filter(entry => differs(entry, known.get(entry.id))), removed: [...known.keys()].filter(id => !ids.has(id)) }
}
