import { readdirSync } from 'node:fs'
import { join, sep } from 'node:path'

/** Where an endpoint stands, read from the name of its file. */
export interface Place { file: string, method: string, path: string }

/** All endpoints of a folder of server routes, in the order of their paths. The catch-all is none. */
export function placesIn(folder: string): Place[] {
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(file => file.endsWith('.ts') && !file.includes('[...]'))
  return files.map(file => placeOf(folder, file)).sort((a, b) => a.path < b.path ? -1 : a.path > b.path ? 1 : a.method.localeCompare(b.method))
}

function placeOf(folder: string, file: string): Place {
  const [, name, method = 'get'] = /^(.*?)(?:\.(get|post|put|patch|delete))?\.ts$/.exec(file.split(sep).join('/'))!
  const path = name!.replace(/(^|\/)index$/, '').replace(/\[(\w+)\]/g, '{$1}')
  return { file: join(folder, file), method, path: `/api/${path}`.replace(/\/$/, '') }
}

/** The module that `#endpoints` stands for: all of them, with what each says of itself. */
export function registryModule(folder: string): string {
  const places = placesIn(folder)
  return `${places.map(({ file }, index) => `import endpoint${index} from ${JSON.stringify(file)}`).join('\n')}
export const endpoints = () => [
${places.map(({ method, path }, index) => `  { method: '${method}', path: '${path}', endpoint: endpoint${index}.endpoint },`).join('\n')}
]
`
}
