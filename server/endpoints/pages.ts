import { readdirSync } from 'node:fs'
import { sep } from 'node:path'

/** The addresses of a folder of pages: what is in none of its files is no page. */
export function pagesIn(folder: string): string[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter(file => file.endsWith('.vue'))
    .map(file => `/${file.split(sep).join('/').replace(/\.vue$/, '').replace(/(^|\/)index$/, '')}`.replace(/(.)\/$/, '$1')).sort()
}

/** The module that `#pages` stands for. */
export function pagesModule(folder: string): string {
  return `export const pages = new Set(${JSON.stringify(pagesIn(folder))})\n`
}
