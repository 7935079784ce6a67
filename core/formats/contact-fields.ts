import { phrase, type Phrase } from '../../words/phrase'
import { numberKinds } from './number-kinds'

/** How much of a contact is kept. */
export const mostNumbers = 20
export const mostAddresses = 10
/** Characters. */
export const longest = { name: 100, note: 1_000, language: 40, category: 60, address: 254, uid: 255 } as const

/** What a column of a table may hold. */
export const meanings = [
  'nothing', 'name', 'first', 'last', 'company', ...numberKinds, 'address', 'category', 'language', 'note', 'kind', 'uid',
] as const
export type Meaning = typeof meanings[number]

/** What of somebody is more than is kept. Counts of numbers and addresses, lengths of texts. */
export function beyond(said: { numbers: number, addresses: number, name: number, note: number }): Phrase[] {
  return [
    ...said.numbers > mostNumbers ? [phrase('files.moreNumbers', { more: said.numbers - mostNumbers, kept: mostNumbers })] : [],
    ...said.addresses > mostAddresses ? [phrase('files.moreAddresses', { more: said.addresses - mostAddresses, kept: mostAddresses })] : [],
    ...said.name > longest.name ? [phrase('files.nameAfter', { letters: longest.name })] : [],
    ...said.note > longest.note ? [phrase('files.noteAfter', { letters: longest.note })] : [],
  ]
}
