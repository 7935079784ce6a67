/** Nothing is shown before it can be said. */
export default defineNuxtPlugin(fetchWords)
