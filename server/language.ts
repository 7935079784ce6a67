import { english } from '../words/english'

/** What the server says to whoever asks, in their language: English is the only one so far. */
export const t = english
