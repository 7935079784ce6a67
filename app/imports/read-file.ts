import { NotTaken } from '~/composables/failure'
import type { ContactFile } from '~~/core/formats/contact-file'
import type { Home } from '~~/core/numbers/dialled'
import type { Meaning } from '~~/core/formats/contact-fields'
import type { Phrase } from '~~/words/phrase'
import { say, t } from '~/composables/language'

/** Bytes. */
export const largestFile = 12_000_000

/**
 * The contacts of a file.
 * @throws Error with a sentence when there are none in it, or it is too large
 */
export async function readFile(file: File, home: Home, as?: readonly Meaning[]): Promise<ContactFile> {
  if (file.size > largestFile) throw new NotTaken(t('contacts.theFileIsLargerThan', { n: largestFile / 1_000_000 }))
  const bytes = new Uint8Array(await file.arrayBuffer())
  const worker = new Worker(new URL('./reading.worker.ts', import.meta.url), { type: 'module' })
  try {
    const answer = await new Promise<ContactFile | { fault: Phrase }>((resolve, reject) => {
      worker.onmessage = ({ data }: MessageEvent<ContactFile | { fault: Phrase }>) => resolve(data)
      worker.onerror = () => reject(new NotTaken(t('contacts.theFileCantBeRead')))
      worker.postMessage({ bytes, home: { country: home.country, longestInside: home.longestInside }, ...as && { as: [...as] } })
    })
    if ('fault' in answer) throw new NotTaken(say(answer.fault))
    return answer
  }
  finally {
    worker.terminate()
  }
}
