import { existsSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'

/** What is said of where each need is served is true. */
const rows = (file: string) => readFileSync(file, 'utf8').split('\n').filter(line => /^\| [A-Z]\d/.test(line))
  .map(line => line.split('|').map(cell => cell.trim()))
const told = rows('docs/needs.md').map(([, id, , where]) => ({ id: id!, places: [...where!.matchAll(/`([^`]+)`/g)].map(([, place]) => place!) }))

it('each place is there, and each need leads to one', () => {
  for (const { id, places } of told) {
    expect(places.length, id).toBeGreaterThan(0)
    for (const place of places) expect(existsSync(place), `${id}: ${place}`).toBe(true)
  }
  expect(new Set(told.map(({ id }) => id)).size).toBe(told.length)
})

it('what works today can be found', () => {
  const works = rows('README.md').flatMap(([, ids]) => ids!.match(/[A-Z]\d+/g) ?? [])
  expect(works.length).toBeGreaterThan(60)
  const known = new Set(told.map(({ id }) => id))
  expect([...new Set(works)].filter(id => !known.has(id))).toEqual([])
})
