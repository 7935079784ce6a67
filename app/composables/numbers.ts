import { nobody } from '~~/core/company/company'
import { type Dialled, formatNumber as format, type Home, readCaller as readCallerOf, readDialled as read } from '~~/core/numbers/dialled'
import { useLive } from '~/stores/live'

/** Numbers as the house that this console is of reads and writes them. */

export function home(): Home {
  return useLive().company?.settings ?? nobody.settings
}

export const readDialled = (text: string): Dialled => read(text, home())
export const formatNumber = (e164: string): string => format(e164, home())
export const readCaller = (text: string): string => readCallerOf(text, home())
