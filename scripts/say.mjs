/**
 * Prints what is being done, while it is done.
 * @param {string} text
 */
export function say(text) {
  console.log(`· ${text}`)
}

/** Ends with one sentence about what to do. */
export class Stop extends Error {}

/**
 * Runs a script's main part: a Stop is printed as its sentence, anything else as the error it is.
 * @param {() => Promise<void>} main
 */
export async function run(main) {
  try {
    await main()
  }
  catch (error) {
    console.error(error instanceof Stop ? `\n${error.message}` : error)
    process.exitCode = 1
  }
}
