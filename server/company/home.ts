import type { EntityManager } from '@mikro-orm/postgresql'
import { nobody } from '~~/core/company/company'
import type { Home } from '~~/core/numbers/dialled'

/** How the house reads and writes numbers, as its settings say at this moment. */
export async function homeIn(em: EntityManager): Promise<Home> {
  const [home] = await em.execute<Home[]>('select country, longest_inside as "longestInside" from settings')
  return home ?? nobody.settings
}
