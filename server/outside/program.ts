import { build } from 'esbuild'

/** A thread's program with all that it needs, as one text. */
export async function threadProgram(file: string): Promise<string> {
  const { outputFiles } = await build({
    entryPoints: [file], bundle: true, platform: 'node', format: 'cjs', target: 'node20', write: false, logLevel: 'warning',
  })
  return outputFiles[0]!.text
}

/** The module that `#reading-program` stands for. */
export async function threadModule(file: string): Promise<string> {
  // In letters that the build, which puts values in the place of some words, finds nothing in.
  const letters = Buffer.from(await threadProgram(file)).toString('base64')
  return `export default Buffer.from('${letters}', 'base64').toString()`
}
