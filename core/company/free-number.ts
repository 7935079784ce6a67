import type { Company } from './company'

/** Every number inside that leads somewhere. */
export function takenNumbers({ telephones, groups, slots, zones, shortNumbers }: Company): Set<string> {
  return new Set([telephones, groups, slots, zones, shortNumbers].flatMap(part => Object.values<{ number: string }>(part).map(({ number }) => number)))
}

/**
 * The first number inside that is nobody's yet.
 * @param after looks on behind this one; otherwise from where the house's own numbers begin
 * @returns empty when there is none
 */
export function freeNumber({ firstExtension, longestInside }: Company['settings'], taken: ReadonlySet<string>, after?: string): string {
  const begin = after && /^\d+$/.test(after) ? Number(after) + 1 : Number(firstExtension)
  for (let number = begin; String(number).length <= longestInside; number++) if (!taken.has(String(number))) return String(number)
  return ''
}
