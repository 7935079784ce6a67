import { compile, createCoreContext, type CoreContext, registerMessageCompiler, registerMessageResolver, resolveValue, translate } from '@intlify/core-base'
import type rest from './en/rest'
import type start from './en/start'

/**
 * Every word that people read or hear has its place in a catalogue (`en/`, a file for a subject), under a key: "log.noCallYet". Blanks are written {name};
 * of two forms with a bar between them, `count` chooses (https://vue-i18n.intlify.dev/guide/essentials/syntax).
 */
export type Catalogue = typeof start & typeof rest
export type Key = { [Subject in keyof Catalogue]: `${Subject}.${keyof Catalogue[Subject] & string}` }[keyof Catalogue]

export type Message<K extends Key>
  = K extends `${infer Subject extends keyof Catalogue}.${infer Name}` ? Catalogue[Subject][Name & keyof Catalogue[Subject]] : never
export type Blanks<Text> = Text extends `${string}{${infer Blank}}${infer Rest}` ? (Blank extends `'${string}` ? never : Blank) | Blanks<Rest> : never
/** `count` chooses between the forms, also where it is not said. */
export type Values<K extends Key>
  = [Blanks<Message<K>>] extends [never] ? [] : [{ [Blank in Blanks<Message<K>>]: string | number } & { count?: number }]

/** A key without blanks: a name, a heading. */
export type PlainKey = { [K in Key]: [Blanks<Message<K>>] extends [never] ? K : never }[Key]

/** Says what a key stands for, with its blanks filled in. */
export type Speaker = <K extends Key>(key: K, ...values: Values<K>) => string

/** A part of a language's catalogue, by subject. */
export type Words = Record<string, Record<string, string>>

registerMessageCompiler(compile)
registerMessageResolver(resolveValue)

/** @param messages by language; words may be added to it afterwards */
export function speaker(language: string, messages: Record<string, Words>): Speaker {
  const context = createCoreContext({ locale: language, messages, missingWarn: false, fallbackWarn: false }) as CoreContext
  /** What has no blanks is the same whenever it is said: thousands of windows of a floor say it. */
  const known = new Map<string, string>()
  return (key, ...values) => {
    const [named] = values as [Record<string, string | number>?]
    if (named !== undefined) return String(translate(context, key, named, { plural: Number(named.count ?? 1) }))
    const said = known.get(key) ?? String(translate(context, key))
    // A key whose words have not been fetched yet is said as itself until they are.
    if (said !== key) known.set(key, said)
    return said
  }
}
