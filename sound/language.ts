import { english } from '../words/english'

/** What the house says to callers, in its language: English is the only one so far. */
export const t = english
