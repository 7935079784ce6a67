import { type Home, readDialled } from '../numbers/dialled'
import type { CompanyChange } from './changes'

/** Numbers outside are kept in E.164, however somebody has written them; what is none stays as it is, and is told as a fault. */
export function asKept(change: CompanyChange, home: Home): CompanyChange {
  if (change.value === null) return change
  const number = <T extends string | null | undefined>(text: T): T => {
    const dialled = text ? readDialled(text, home) : null
    return dialled?.kind === 'outside' ? dialled.e164 as T : text
  }
  switch (change.part) {
    case 'people': return { ...change, value: { ...change.value, mobile: number(change.value.mobile) } }
    case 'telephones': return { ...change, value: { ...change.value, direct: number(change.value.direct) } }
    case 'lines': {
      const { number: own, night, overflow } = change.value
      return { ...change, value: { ...change.value, number: number(own), night: number(night), overflow: { ...overflow, to: number(overflow.to) } } }
    }
    case 'groups': {
      const { overflow } = change.value
      return { ...change, value: { ...change.value, overflow: { ...overflow, to: number(overflow.to) } } }
    }
    case 'duties': return { ...change, value: { ...change.value, instead: number(change.value.instead) } }
    default: return change
  }
}
