import { setLocale } from 'yup'
import { phrase, type Phrase } from '../../words/phrase'
import type { Blanks, Key, Message } from '../../words/speaker'

/**
 * How every schema of the house speaks: in phrases that name the field and the remedy, and never repeat what was sent (`faults.ts` reads them). Imported
 * before the first schema is made.
 */
interface Said { path: string, type?: string, values?: unknown, max?: number, min?: number, unknown?: string }
type Saying = (said: Said) => Phrase

type OfField = { [K in Key]: 'field' extends Blanks<Message<K>> ? K : never }[Key]
type Others<K extends Key> = Exclude<Blanks<Message<K>>, 'field'>
type Rest<K extends Key> = [Others<K>] extends [never] ? [] : [{ [Blank in Others<K>]: string | number | Phrase } & { count?: number }]

/** The field by its label or its path; the whole, where it is no field. */
const fieldOf = ({ path }: Said): string | Phrase => path === 'this' ? phrase('input.whole') : path

/** What a schema's own rule says of its field. */
export function saying<K extends OfField>(key: K, ...[others]: Rest<K>): Saying {
  return said => ({ key, with: { field: fieldOf(said), ...others } })
}

const kinds: Record<string, Phrase> = {
  object: phrase('input.anObject'), array: phrase('input.aList'), number: phrase('input.aNumber'), string: phrase('input.aText'),
  boolean: phrase('input.trueOrFalse'), date: phrase('input.aDate'),
}
type Most = 'input.atMost' | 'input.atMostCharacters' | 'input.atMostEntries'
type Least = 'input.atLeast' | 'input.atLeastCharacters' | 'input.atLeastEntries'
const missing = saying('input.missing')
const atMost = (key: Most): Saying => said => phrase(key, { field: fieldOf(said), max: said.max!, count: said.max! })
const atLeast = (key: Least): Saying => said => phrase(key, { field: fieldOf(said), min: said.min!, count: said.min! })

setLocale({
  mixed: {
    required: missing,
    defined: missing,
    notNull: missing,
    notType: (said: Said) => phrase('input.kind', { field: fieldOf(said), kind: kinds[said.type!] ?? said.type! }),
    oneOf: (said: Said) => phrase('input.oneOf', { field: fieldOf(said), values: String(said.values) }),
  },
  string: { max: atMost('input.atMostCharacters'), min: atLeast('input.atLeastCharacters') },
  number: { max: atMost('input.atMost'), min: atLeast('input.atLeast'), integer: saying('input.wholeNumber') },
  array: { max: atMost('input.atMostEntries'), min: atLeast('input.atLeastEntries') },
  object: { noUnknown: (said: Said) => phrase('input.unknownFields', { field: fieldOf(said), unknown: said.unknown! }) },
} as never)
