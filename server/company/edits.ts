import { randomUUID } from 'node:crypto'
import type { EntityManager } from '@mikro-orm/postgresql'
import { plainText } from '~~/core/calls/text'
import { changedCompany, changesBetween, type CompanyChange, idOf, isSameThing, thingOf } from '~~/core/company/changes'
import { asKept } from '~~/core/company/as-kept'
import { faultsOf } from '~~/core/company/check'
import { type Company, isNewId } from '~~/core/company/company'
import type { CompanyFileAnswer, RecordedChange } from '~~/shared/company-edits'
import { refuseOwned } from '../house-directory/owners'
import { spoken } from '~~/words/phrase'
import { t } from '../language'
import { inTurn } from '../database/turns'
import { wrongInput } from '../validation/read'
import { companyIn, writeChanges } from './rows'

/** The company as administrators change it: each edit whole or not at all, never over what somebody else has changed, and on record with what was before. */

const shortNumber = /^\d{1,5}$/
const longestText = 600
const shownAtOnce = 100
/** Edits come one after the other. */
export const companyEdits = 'company edits'

/**
 * Carries changes out.
 * @param seen the same things as whoever changes them has seen them
 * @throws 409 when somebody else has changed one of them since, 422 with what is wrong with the result
 */
export async function editCompany(
  em: EntityManager, by: string, seen: readonly CompanyChange[], wanted: readonly CompanyChange[],
): Promise<{ edit: string, changes: number }> {
  return inTurn(em, companyEdits, tx => editIn(tx, by, seen, wanted))
}

/** The same for whoever's turn it is already: what is wrong with it is undone, and nothing else. */
export function editIn(
  turn: EntityManager, by: string, seen: readonly CompanyChange[], wanted: readonly CompanyChange[],
): Promise<{ edit: string, changes: number }> {
  if (seen.length !== wanted.length) throw wrongInput('seen', t('answers.seenAndChanges'))
  return turn.transactional(async (tx) => {
    const company = await companyIn(tx)
    const changes = wanted.map(change => clean(company, change))
    for (const [index, change] of changes.entries()) {
      const now = thingOf(company, change)
      if (isSameThing(now, seen[index]!)) continue
      const who = await whoChanged(tx, change)
      throw createError({
        statusCode: 409,
        message: t('answers.changedMeanwhile', { who, name: nameOf(company, change), differences: differences(seen[index]!, now) }),
      })
    }
    const different = changes.filter(change => !isSameThing(thingOf(company, change), change))
    return different.length === 0 ? { edit: '', changes: 0 } : carryOut(tx, by, company, different)
  })
}

/** Another company in the place of this one: what would change, or has changed, and what is wrong with it. */
export async function replaceCompany(em: EntityManager, by: string, given: Company, reallyDo: boolean): Promise<CompanyFileAnswer> {
  return inTurn(em, companyEdits, async (tx) => {
    const company = await companyIn(tx)
    const changes = changesBetween(company, given).map(change => clean(company, change))
    const answer: CompanyFileAnswer = {
      changes: changes.map((change) => {
        const before = thingOf(company, change).value
        return { part: change.part, id: idOf(change), what: change.value === null ? 'removed' : before === null ? 'new' : 'changed' }
      }),
      faults: faultsOf(changedCompany(company, company.version, changes)).map(fault => spoken(t, fault)), edit: null,
    }
    if (reallyDo && answer.faults.length === 0 && changes.length > 0) answer.edit = (await carryOut(tx, by, company, changes)).edit
    return answer
  })
}

/**
 * What an edit has changed is as it was before.
 * @throws 404 when there is none such, 409 when one of its things has been changed since
 */
export async function undoEdit(em: EntityManager, by: string, edit: string): Promise<{ edit: string, changes: number }> {
  const rows = await em.execute<{ part: string, thing: string, before: unknown, after: unknown }[]>(
    'select part, thing, before, after from company_change where edit = ? order by id desc', [edit],
  )
  if (rows.length === 0) throw createError({ statusCode: 404, message: t('answers.noSuchEdit') })
  const as = (value: 'before' | 'after') => rows.map(row =>
    (row.part === 'settings' ? { part: row.part, value: row[value] } : { part: row.part, id: row.thing, value: row[value] }) as CompanyChange)
  return editCompany(em, by, as('after'), as('before'))
}

/** The latest changes, or those before one. */
export async function recordedEdits(em: EntityManager, before: number): Promise<RecordedChange[]> {
  return em.execute<RecordedChange[]>(
    `select c.id::float8 as id, (extract(epoch from c.at) * 1000)::float8 as at, coalesce(a.name, c."by") as "by", c.edit, c.part, c.thing,
      coalesce(c.before::text, '') as before, coalesce(c.after::text, '') as after
    from company_change c left join account a on a.sign_in = c."by" where ? = 0 or c.id < ? order by c.id desc limit ${shownAtOnce}`,
    [before, before],
  )
}

async function carryOut(tx: EntityManager, by: string, company: Company, changes: readonly CompanyChange[]): Promise<{ edit: string, changes: number }> {
  const [fault] = faultsOf(changedCompany(company, company.version, changes))
  if (fault !== undefined) throw wrongInput('changes', t('faults.nothingWasChanged', { fault: spoken(t, fault) }))
  await refuseOwned(tx, by, company, changes)
  await writeChanges(tx, changes)
  // What stands there now is what can be undone: a telephone, for example, has the name of whose it is.
  tx.clear()
  const after = await companyIn(tx)
  const edit = randomUUID()
  const json = (value: unknown) => value === null ? null : JSON.stringify(value)
  for (const change of changes) {
    await tx.execute('insert into company_change ("by", edit, part, thing, before, after) values (?, ?, ?, ?, ?::jsonb, ?::jsonb)', [
      by, edit, change.part, idOf(change), json(thingOf(company, change).value), json(thingOf(after, change).value),
    ])
  }
  return { edit, changes: changes.length }
}

/** Texts that can be kept and shown; what stands under an id has that id, and a new id is one that nothing else is taken for. */
function clean(company: Company, change: CompanyChange): CompanyChange {
  if (change.part === 'settings') return { part: 'settings', value: plainTexts(change.value) }
  const { part, id, value } = change
  const fits = part === 'shortNumbers' ? shortNumber.test(id) : isNewId(id)
  if (thingOf(company, change).value === null && !fits) {
    throw wrongInput('changes', t('answers.noId', { id: plainText(id, 60) }))
  }
  if (value !== null && (part === 'shortNumbers' ? (value as { number: string }).number : (value as { id: string }).id) !== id)
    throw wrongInput('changes', t('answers.otherId', { id }))
  return asKept({ part, id, value: plainTexts(value) } as CompanyChange, company.settings)
}

function plainTexts<T>(value: T): T {
  if (typeof value === 'string') return plainText(value, longestText) as T
  if (Array.isArray(value)) return value.map(plainTexts) as T
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, part]) => [plainText(key, 80), plainTexts(part)])) as T
}

async function whoChanged(tx: EntityManager, change: CompanyChange): Promise<string> {
  const [last] = await tx.execute<{ by: string }[]>(
    `select coalesce(a.name, c."by") as "by" from company_change c left join account a on a.sign_in = c."by" where c.part = ? and c.thing = ?
    order by c.id desc limit 1`,
    [change.part, idOf(change)],
  )
  return last?.by ?? t('answers.somebodyElse')
}

function nameOf(company: Company, change: CompanyChange): string {
  if (change.part === 'settings') return t('answers.theSettings')
  const value = (thingOf(company, change).value ?? change.value) as { name?: string, first?: string, last?: string } | null
  return value?.name ?? (`${value?.first ?? ''} ${value?.last ?? ''}`.trim() || change.id)
}

/** In which fields two differ, with what stands there now. */
function differences(one: CompanyChange, now: CompanyChange): string {
  if (now.value === null) return t('answers.notThereAnyMore')
  if (one.value === null) return t('answers.thereAlready')
  const [was, is] = [one.value, now.value] as Record<string, unknown>[]
  const fields = Object.keys(is!).filter(field => JSON.stringify(was![field]) !== JSON.stringify(is![field]))
  const changed = fields.slice(0, 4).map(field => t('answers.fieldIsNow', { field, value: plainText(JSON.stringify(is![field]), 60) }))
  return changed.join(', ') || t('answers.inItsOrder')
}
