import { readdirSync, readFileSync } from 'node:fs'
import { basename } from 'node:path'
import { expect, it } from 'vitest'

/** What Nuxt finds by its name is imported by nobody: that somebody uses it is looked up here. */

const sources = readdirSync('app', { recursive: true, encoding: 'utf8' }).filter(file => /\.(vue|ts)$/.test(file) && !file.endsWith('.test.ts'))
const text = new Map(sources.map(file => [file, readFileSync(`app/${file}`, 'utf8')]))
const usedOutside = (file: string, what: RegExp) => [...text].some(([other, code]) => other !== file && what.test(code))

it('every component stands in some page', () => {
  const components = sources.filter(file => file.startsWith('components/') && file.endsWith('.vue'))
  expect(components.length).toBeGreaterThan(100)
  const unused = components.filter((file) => {
    const name = basename(file, '.vue')
    return !usedOutside(file, new RegExp(`<(Lazy)?${name}\\b|\\b${name}\\.vue'`))
  })
  expect(unused).toEqual([])
})

it('everything that composables and stores give is taken by somebody', () => {
  const unused = sources.filter(file => /^(composables|stores)\//.test(file)).flatMap(file =>
    [...text.get(file)!.matchAll(/^export (?:async )?(?:function|const) (\w+)/gm)].map(([, name]) => name!)
      .filter(name => !usedOutside(file, new RegExp(`\\b${name}\\b`))).map(name => `${file}: ${name}`))
  expect(unused).toEqual([])
})
