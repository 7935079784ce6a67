import { readFileSync } from 'node:fs'

/**
 * Secrets may lie in files: NAME_FILE names the file that holds what NAME would say, without the line's end.
 * @param env changed: each NAME that a file says
 * @returns what is wrong, one sentence for each
 */
export function readSecretFiles(env: Record<string, string | undefined>, names: readonly string[]): string[] {
  return names.flatMap((name) => {
    const file = env[`${name}_FILE`]
    if (file === undefined || file === '') return []
    if (env[name]) return [`${name} and ${name}_FILE are both set: leave one out.`]
    try {
      env[name] = readFileSync(file, 'utf8').replace(/\r?\n$/, '')
      return []
    }
    catch {
      return [`${name}_FILE names ${file}, which can't be read: check that it is there, and that this program's user may read it.`]
    }
  })
}
