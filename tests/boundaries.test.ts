import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { ESLint } from 'eslint'
import { describe, expect, it } from 'vitest'

/** The rooms of the house know only what is below them: the linter says so. */
const linter = new ESLint({ overrideConfigFile: 'eslint.config.mjs' })

async function complaints(filePath: string, from: string): Promise<string[]> {
  const [result] = await linter.lintText(`import { thing } from '${from}'\n\nexport const other = thing\n`, { filePath })
  return result!.messages.flatMap(({ ruleId, message }) => ruleId === 'no-restricted-imports' ? [message] : [])
}

describe('imports', () => {
  it.each([
    ['core/calls/made-up.ts', '../../shared/feed'],
    ['core/calls/made-up.ts', '../../server/relay'],
    ['core/calls/made-up.ts', '~~/exchange/switch'],
    ['core/calls/made-up.ts', '../../demo/company/merrowby'],
    ['core/calls/made-up.ts', 'vue'],
    ['core/calls/made-up.ts', '../../words/english'],
    ['core/calls/made-up.ts', '../../words/en/track'],
    ['words/made-up.ts', '../core/calls/model'],
    ['core/calls/made-up.ts', 'node:fs'],
    ['core/calls/made-up.ts', '@mikro-orm/core'],
    ['core/calls/made-up.test.ts', '../../server/relay'],
    ['shared/made-up.ts', '../server/relay'],
    ['exchange/made-up.ts', '../server/relay'],
    ['exchange/made-up.ts', '../demo/paces'],
    ['sound/made-up.ts', '../exchange/switch'],
    ['sound/made-up.ts', '../server/relay'],
    ['server/made-up.ts', '../sound/mixer'],
    ['app/stores/made-up.ts', '~~/sound/mixer'],
    ['server/made-up.ts', '../app/stores/live'],
    ['server/api/made-up.ts', '~~/demo/seed'],
    ['server/api/made-up.ts', '../../exchange/switch'],
    ['app/stores/made-up.ts', '~~/server/relay'],
    ['app/stores/made-up.ts', '../../exchange/switch'],
    ['demo/made-up.ts', '../app/stores/live'],
  ])('%s may not know %s', async (file, from) => {
    expect(await complaints(file, from)).toHaveLength(1)
  })

  it.each([
    ['core/calls/made-up.ts', '../company/company'],
    ['core/calls/made-up.ts', 'immutable'],
    ['core/calls/made-up.ts', '../../words/phrase'],
    ['app/stores/made-up.ts', '~~/words/phrase'],
    ['core/calls/made-up.test.ts', '../../demo/company/merrowby'],
    ['shared/made-up.ts', '../core/calls/model'],
    ['exchange/made-up.ts', '../shared/link'],
    ['server/made-up.ts', '~~/core/calls/model'],
    ['server/made-up.ts', '../server/relay'],
    ['app/stores/made-up.ts', '~~/shared/feed'],
    ['demo/made-up.ts', '../exchange/switch'],
  ])('%s may know %s', async (file, from) => {
    expect(await complaints(file, from)).toEqual([])
  })
})

/** What a file takes of others at run time; types alone bind nobody. */
function takenBy(file: string): string[] {
  const imports = readFileSync(file, 'utf8').matchAll(/^import (?!type )[^;]*? from '(\.[^']+)'/gm)
  return [...imports].map(([, from]) => `${join(dirname(file), from!)}.ts`)
}

it('no file of the core takes something of another that takes something of it, by whatever way', () => {
  const files = readdirSync('core', { recursive: true, encoding: 'utf8' }).filter(file => file.endsWith('.ts') && !file.endsWith('.test.ts'))
    .map(file => join('core', file))
  const takes = new Map(files.map(file => [file, takenBy(file)]))
  expect(takes.get('core/calls/decide.ts')!.length).toBeGreaterThan(10)
  /** Whoever can be looked at without meeting anybody who is still being looked at. */
  const done = new Set<string>()
  const look = (file: string, way: readonly string[]): void => {
    if (way.includes(file)) throw new Error(`a circle: ${[...way.slice(way.indexOf(file)), file].join(' → ')}`)
    if (done.has(file)) return
    for (const other of takes.get(file) ?? []) look(other, [...way, file])
    done.add(file)
  }
  for (const file of files) look(file, [])
})

describe('words', () => {
  const refused = async (filePath: string, text: string) => {
    const [result] = await linter.lintText(text, { filePath })
    return result!.messages.some(({ ruleId }) => ruleId === 'no-restricted-syntax' || ruleId === 'vue/no-bare-strings-in-template')
  }

  it('stand in the catalogue, and neither in a template nor in what is computed', async () => {
    const page = (inside: string) => `<template>\n  <p>${inside}</p>\n</template>\n`
    expect(await refused('app/components/MadeUp.vue', page('Nobody waits'))).toBe(true)
    expect(await refused('app/components/MadeUp.vue', page('<em title="Nobody" />'))).toBe(true)
    expect(await refused('app/components/MadeUp.vue', page('★ {{ t(\'queues.nobodyWaits\') }}'))).toBe(false)
    expect(await refused('core/queues/made-up.ts', 'export const said = \'Nobody waits\'\n')).toBe(true)
    expect(await refused('core/queues/made-up.ts', 'export const said = (who: string) => `${who} waits here`\n')).toBe(true)
    expect(await refused('core/queues/made-up.ts', 'export const said = \'queues.nobodyWaits\'\n')).toBe(false)
  })
})
