import { english } from './english'
import { type Phrase, type Spoken, spoken } from './phrase'

const isPhrase = (value: object): value is Phrase => 'key' in value && Object.keys(value).every(name => name === 'key' || name === 'with')

/** For tests: whatever it is, with every phrase in it as its reader has it. */
export function inEnglish<T>(value: T): unknown {
  if (typeof value !== 'object' || value === null || value instanceof Uint8Array) return value
  if (Array.isArray(value)) return value.map(inEnglish)
  return isPhrase(value) ? spoken(english, value) : Object.fromEntries(Object.entries(value).map(([name, one]) => [name, inEnglish(one)]))
}

/** For tests: what a reader says that throws; null, when it has read. */
export function refusalOf(read: () => unknown): string | null {
  try {
    read()
    return null
  }
  catch (error) {
    const { what, errors: [found] = [], message } = error as Error & { what?: Spoken, errors?: Spoken[] }
    return spoken(english, what ?? found ?? message)
  }
}
