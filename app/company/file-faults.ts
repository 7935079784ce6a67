import { parse, type ParseError } from 'jsonc-parser'
import type { Part } from '~~/core/company/changes'
import { fieldsOf, partForms } from './forms'
import { t } from '~/composables/language'

/** Where a text can't be read that is no JSON: browsers' own parsers don't say. */
export function jsonFault(text: string): string {
  const errors: ParseError[] = []
  parse(text, errors, { disallowComments: true })
  const before = text.slice(0, errors[0]?.offset ?? text.length).split('\n')
  return t('company.thisIsNoJsonLine', { count: before.length, n: before.at(-1)!.length + 1 })
}

/**
 * What the server says of a company file, in the words of the forms: "file.company.groups.g1.ringTime must be …" is "In the file, Groups and queues, Orders:
 * for seconds must be …".
 * @param file as it was read
 */
export function inWords(sentence: string, file: unknown): string {
  const [, path, rest] = /^(file(?:\.[^\s.]+|\[[^\]]+\])*)\s+(.*)$/s.exec(sentence) ?? []
  if (path === undefined) return sentence
  const [, , part, id, ...deeper] = path.replace(/\[["']?([^"'\]]+)["']?\]/g, '.$1').split('.')
  if (part === undefined) return t('company.theFile', {
    more: path === 'file' ? '' : t('company.hasAFieldThat', { path: path.slice(5) }), rest: rest!,
  }).replace('  ', ' ')
  const isSettings = part === 'settings'
  if (!isSettings && !Object.hasOwn(partForms, part)) return t('company.inTheFile', { part, rest: rest! })
  const title = isSettings ? t('company.settings') : t(partForms[part as Part].title)
  const thing = isSettings || id === undefined ? undefined : named(file, part, id)
  const at = (isSettings ? [id, ...deeper] : deeper).filter(Boolean).join('.')
  const field = fieldsOf(part as Part | 'settings').find(field => field.at === at)
  const label = field ? t(field.label) : at
  return t('company.inTheFileTitleMoreLabelRest', { title, more: thing ? `, ${thing}` : '', label: label || title, rest: rest! })
}

function named(file: unknown, part: string, id: string): string {
  const things = (file as { company?: Record<string, Record<string, Record<string, unknown>>> } | null)?.company?.[part]
  const thing = things && Object.hasOwn(things, id) ? things[id] : undefined
  return [thing?.name, `${String(thing?.first ?? '')} ${String(thing?.last ?? '')}`.trim(), thing?.number, id].find(one => typeof one === 'string'
    && one !== '') as string
}
