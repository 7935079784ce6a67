import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Columns, FileRow } from '~~/core/formats/contact-file'
import type { Meaning } from '~~/core/formats/contact-fields'
import { type ContactImport, type ImportRow, type ImportUndone, type ImportVerdicts, mostRowsAtOnce, type Verdict } from '~~/shared/contact-imports'
import { sentenceOf } from '~/composables/failure'
import { say, t } from '~/composables/language'
import { home } from '~/composables/numbers'
import { readFile } from '~/imports/read-file'
import { useContacts } from './contacts'

/** Characters of a part: what the server takes at once, with room to spare. */
const longestPart = 1_500_000

/** A row of the file with what would become of it, or has. */
export interface Previewed extends FileRow { verdict: Verdict | null, why: string }

/** Bringing in contacts from a file: read, looked at, carried out part by part, stopped, gone on with, undone. It goes on when its page is left. */
export const useContactImport = defineStore('contact-import', () => {
  const contacts = useContacts()
  const file = shallowRef<File | null>(null)
  const columns = shallowRef<Columns | null>(null)
  const rows = shallowRef<Previewed[]>([])
  const companies = ref<string[]>([])
  const isPrivate = ref(false)
  const failure = ref<string | null>(null)
  const doing = ref<'nothing' | 'reading' | 'looking' | 'bringing' | 'undoing'>('nothing')
  const current = ref<ContactImport | null>(null)
  const done = ref(0)
  const undone = ref<ImportUndone | null>(null)
  const past = ref<ContactImport[]>([])
  let stopped = false

  const wanted = computed(() => rows.value.filter(({ said }) => said !== null))
  const counts = computed(() => {
    const all = { new: 0, changed: 0, unchanged: 0, refused: 0 }
    for (const { verdict } of rows.value) if (verdict) all[verdict]++
    return all
  })
  const isBroughtIn = computed(() => current.value !== null && done.value >= wanted.value.length)

  async function during(what: typeof doing.value, work: () => Promise<void>): Promise<void> {
    doing.value = what
    failure.value = null
    try {
      await work()
    }
    catch (error) {
      failure.value = sentenceOf(error)
    }
    finally {
      doing.value = 'nothing'
    }
  }

  /** Reads a file, or reads it again with other meanings of its columns, and looks at what would become of it. */
  async function read(given: File, as?: readonly Meaning[]): Promise<void> {
    forget()
    await during('reading', async () => {
      const found = await readFile(given, home(), as)
      file.value = given
      columns.value = found.columns
      rows.value = found.rows.map(row => ({ ...row, verdict: row.said ? null : 'refused', why: row.fault ? say(row.fault) : '' }))
    })
    if (!failure.value) await look()
  }

  /** Asks what would become of every row, as things stand now. */
  async function look(): Promise<void> {
    const firms = new Set<string>()
    stopped = false
    await during('looking', async () => {
      for (const part of partsOf(wanted.value)) {
        if (stopped) return
        const body = { private: isPrivate.value, rows: part.map(asRow) }
        const answer = await $fetch<ImportVerdicts>('/api/contacts/imports/check', { method: 'POST', body })
        tell(part, answer)
        for (const firm of answer.companies) firms.add(firm)
      }
    })
    companies.value = [...firms]
  }

  /** Carries it out from where it stopped, or from the beginning. */
  async function bringIn(): Promise<void> {
    stopped = false
    await during('bringing', async () => {
      current.value ??= await $fetch<ContactImport>('/api/contacts/imports', {
        method: 'POST', body: { file: file.value!.name.slice(0, 120) || t('contacts.aFile'), private: isPrivate.value },
      })
      for (const part of partsOf(wanted.value.slice(done.value))) {
        if (stopped) break
        const body = { from: done.value, rows: part.map(asRow) }
        tell(part, await $fetch<ImportVerdicts>(`/api/contacts/imports/${current.value.id}/rows`, { method: 'PUT', body }))
        done.value += part.length
      }
    })
    await contacts.refresh()
    await remember()
  }

  function stop(): void {
    stopped = true
  }

  async function undo(id: string): Promise<void> {
    await during('undoing', async () => {
      const all: ImportUndone = { undone: 0, left: [], more: true }
      while (all.more) {
        const part = await $fetch<ImportUndone>(`/api/contacts/imports/${id}/undo`, { method: 'POST', body: {} })
        all.undone += part.undone
        all.left = [...new Set([...all.left, ...part.left])]
        all.more = part.more
      }
      undone.value = all
      if (current.value?.id === id) forget()
    })
    await contacts.refresh()
    await remember()
  }

  /** What has been brought in before. */
  async function remember(): Promise<void> {
    past.value = await $fetch<ContactImport[]>('/api/contacts/imports').catch(() => past.value)
  }

  function forget(): void {
    file.value = null
    columns.value = null
    rows.value = []
    companies.value = []
    current.value = null
    done.value = 0
    failure.value = null
  }

  function tell(part: readonly Previewed[], answer: ImportVerdicts): void {
    const said = new Map(part.map((row, index) => [row, answer.rows[index]!]))
    rows.value = rows.value.map((row) => {
      const verdict = said.get(row)
      return verdict ? { ...row, ...verdict } : row
    })
  }

  return {
    file, columns, rows, companies, isPrivate, failure, doing, current, done, undone, past, wanted, counts, isBroughtIn,
    read, look, bringIn, stop, undo, remember, forget,
  }
})

function asRow({ said }: Previewed): ImportRow {
  return said!
}

/** As many rows as may be sent at once. */
function partsOf(rows: readonly Previewed[]): Previewed[][] {
  const parts: Previewed[][] = []
  let size = Infinity
  for (const row of rows) {
    const length = JSON.stringify(row.said).length
    if (size + length > longestPart || parts.at(-1)!.length >= mostRowsAtOnce) {
      parts.push([])
      size = 0
    }
    parts.at(-1)!.push(row)
    size += length
  }
  return parts
}
