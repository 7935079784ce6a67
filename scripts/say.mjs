import { endAll, endInOrder } from './ending.mjs'

/**
 * Prints what is being done, while it is done.
 * @param {string} text
 */
export function say(text) {
  console.log(`· ${text}`)
}

/** Ends with one sentence about what to do. */
export class Stop extends Error {
  /**
   * @param {string} sentence
   * @param {number} [code] with which the program ends
   */
  constructor(sentence, code = 1) {
    super(sentence)
    this.code = code
  }
}

/**
 * Runs a script's main part: a Stop is printed as its sentence, anything else as the error it is. What it has
 * started ends before it does.
 * @param {() => Promise<void>} main
 */
export async function run(main) {
  endInOrder()
  try {
    await main()
    await endAll(0)
  }
  catch (error) {
    console.error(error instanceof Stop ? `\n${error.message}` : error)
    await endAll(error instanceof Stop ? error.code : 1)
  }
}
