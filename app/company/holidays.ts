import { NotTaken } from '~/composables/failure'
import type { OpeningHours } from '~~/core/company/company'
import type { Phrase } from '~~/words/phrase'
import { say, t } from '~/composables/language'

const patience = 5_000
const largest = 2_000_000
const year = 366 * 24 * 60 * 60_000

/**
 * The public holidays of an iCalendar file (RFC 5545), of this year and the two that follow: its whole days.
 * @throws Error with a sentence when it is none, or takes too long
 */
export async function holidaysOfFile(file: File, zone: string): Promise<OpeningHours['holidays']> {
  if (file.size > largest) throw new NotTaken(t('company.theFileIsLargerThan'))
  const text = await file.text()
  const worker = new Worker(new URL('./holidays.worker.ts', import.meta.url), { type: 'module' })
  let late: ReturnType<typeof setTimeout> | undefined
  try {
    const answer = await new Promise<{ holidays?: OpeningHours['holidays'], fault?: Phrase }>((resolve, reject) => {
      late = setTimeout(() => reject(new NotTaken(t('company.thisCalendarTakesTooLong'))), patience)
      worker.onmessage = ({ data }: MessageEvent<{ holidays?: OpeningHours['holidays'], fault?: Phrase }>) => resolve(data)
      worker.onerror = () => reject(new NotTaken(t('calendar.unreadable')))
      worker.postMessage({ text, zone, window: { from: Date.now() - year, to: Date.now() + 2 * year } })
    })
    if (!answer.holidays) throw new NotTaken(say(answer.fault!))
    if (answer.holidays.length === 0) throw new NotTaken(t('company.thereIsNoWholeDay'))
    return answer.holidays
  }
  finally {
    clearTimeout(late)
    worker.terminate()
  }
}
