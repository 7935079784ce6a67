import rest from './en/rest'
import start from './en/start'
import { speaker } from './speaker'

/** All of the catalogue, in English: for servers and tests. */
export const english = speaker('en', { en: { ...start, ...rest } })
