import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import rest from './en/rest'
import start from './en/start'

/** What the catalogue holds is said somewhere; that what is said stands in it, and with which blanks, the types say. */
const catalogue: Record<string, Record<string, string>> = { ...start, ...rest }
const entries = Object.entries(catalogue).flatMap(([subject, words]) => Object.entries(words).map(([name, text]) => [`${subject}.${name}`, text] as const))

function sourcesIn(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) return sourcesIn(path)
    return /(?<!\.test)\.(ts|vue)$/.test(entry.name) ? [readFileSync(path, 'utf8')] : []
  })
}
const blanksIn = (text: string) => [...text.matchAll(/\{(\w+)\}/g)].map(([, blank]) => blank!)

describe('the catalogue', () => {
  it('has every subject in one part of it, and every file in one of the two', () => {
    expect(Object.keys(start).filter(subject => subject in rest)).toEqual([])
    const files = readdirSync('words/en').map(file => file.replace('.ts', '').replace(/-(.)/g, (_, letter: string) => letter.toUpperCase()))
    expect(Object.keys(catalogue).sort()).toEqual(files.filter(file => file !== 'start' && file !== 'rest').sort())
  })

  it('holds nothing that nobody says', () => {
    const said = ['app', 'core', 'shared', 'server', 'exchange', 'sound'].flatMap(sourcesIn).join('\n')
    expect(entries.length).toBeGreaterThan(2_000)
    expect(entries.map(([key]) => key).filter(key => !said.includes(`'${key}'`))).toEqual([])
  })

  it('has two forms at most, which are not the same; blanks of the first stand in the second', () => {
    for (const [key, text] of entries) {
      const forms = text.replaceAll('{\'|\'}', '').split(' | ')
      expect(forms.length, key).toBeLessThan(3)
      expect(new Set(forms).size, key).toBe(forms.length)
      if (forms[1] !== undefined) expect(blanksIn(forms[1]), key).toEqual(expect.arrayContaining(blanksIn(forms[0]!)))
    }
  })
})
