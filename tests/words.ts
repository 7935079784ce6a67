import { fetchAllWords, fetchWords } from '~/composables/language'

/** Tests of the interface hear what its readers do. */
await fetchWords()
await fetchAllWords()
