import { withAllWords } from '~/composables/language'

/** The parts of forms speak by the catalogue, as soon as it is there: no sheet opens before. Fetched with it: the console itself has no such parts. */
export default defineNuxtPlugin(({ vueApp }) => withAllWords(async () => (await import('~/composables/element-words')).letElementsSpeak(vueApp)))
