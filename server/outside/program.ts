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
  return `export default ${JSON.stringify(await threadProgram(file))}`
}
