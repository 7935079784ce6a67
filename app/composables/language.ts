import { shallowRef } from 'vue'
import { type Spoken, spoken } from '~~/words/phrase'
import { speaker, type Speaker, type Words } from '~~/words/speaker'

/** What can be said by now. */
const words: Words = {}
const speak = speaker('en', { en: words })
/** How much of it is there: 'start' is enough for the console itself. */
const there = shallowRef<'nothing' | 'start' | 'all'>('nothing')

const part = (fetchPart: () => Promise<{ default: Words }>, then: 'start' | 'all', follow?: () => Promise<void>) => {
  let fetched: Promise<void> | undefined
  return () => fetched ??= fetchPart().then((fetchedPart) => {
    Object.assign(words, fetchedPart.default)
    if (there.value !== 'all') there.value = then
    return follow?.()
  }).catch((error) => {
    fetched = undefined
    throw error
  })
}

/** Before anything is shown. */
export const fetchWords = part(() => import('~~/words/en/start'), 'start')
let following = () => Promise.resolve()
/** What else has to speak before anything does that needs all words. */
export const withAllWords = (follow: () => Promise<void>): void => void (following = follow)

/** Before a dialog opens, or a page other than the console. Throws when the server is away, and can be called again. */
export const fetchAllWords = part(() => import('~~/words/en/rest'), 'all', () => following())

export const hasAllWords = (): boolean => there.value === 'all'

/** What people read and hear, by its key in the catalogue (`words/en`). Nothing, until its words are fetched: nobody is shown a key. */
export const t: Speaker = (key, ...values) => {
  const all = hasAllWords()
  const said = speak(key, ...values)
  return said === key && !all ? '' : said
}

/** A phrase that has travelled here, or somebody's own words. */
export const say = (what: Spoken): string => spoken(t, what)
