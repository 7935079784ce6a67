import type { Company } from './company'

/** What a house still lacks before its first call can be answered, in the order in which it is usually given. */
export const lacks = ['name', 'trunk', 'line', 'emergency', 'people', 'operators', 'operatorTelephones'] as const
export type Lack = typeof lacks[number]

/**
 * What is missing before a call that comes from outside can be answered by somebody at a console. Empty: nothing.
 * A line leads to the operators when its calls go to their queue.
 */
export function lacking({ lines, trunks, people, telephones, groups, shortNumbers, settings }: Company): Lack[] {
  const operators = groups[settings.operators]?.members ?? []
  const missing: Record<Lack, boolean> = {
    name: settings.name.trim() === '',
    trunk: Object.keys(trunks).length === 0,
    line: !Object.values(lines).some(({ target }) => target === settings.operators),
    emergency: !Object.values(shortNumbers).some(({ emergency }) => emergency),
    people: Object.keys(people).length === 0,
    operators: operators.length === 0,
    operatorTelephones: operators.length > 0 && !operators.some(id => telephones[id]?.person && telephones[id].inService),
  }
  return lacks.filter(lack => missing[lack])
}
