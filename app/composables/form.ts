import { ref } from 'vue'
import { FetchError } from 'ofetch'
import type { ValidationError } from 'yup'
import { sentenceOf } from './failure'

/** Sending what a form holds: what is wrong with a field is told at the field, whether the form or the server found it; everything else below. */
export function useForm() {
  const failure = ref<string | null>(null)
  const errors = ref<Record<string, string>>({})
  const sending = ref(false)

  function clear(): void {
    failure.value = null
    errors.value = {}
  }

  /**
   * Carries `what` out; true when nothing was wrong.
   * @param fields those that can tell what is wrong with them, each with the name that stands over it
   */
  async function send(fields: Record<string, string>, what: () => Promise<void>): Promise<boolean> {
    clear()
    sending.value = true
    try {
      await what()
      return true
    }
    catch (error) {
      const faults = faultsOf(error)
      errors.value = Object.fromEntries(faults.flatMap(({ field, sentence }) => {
        const shown = field === undefined ? undefined : fields[field]
        return shown === undefined ? [] : [[field!, sentence.startsWith(`${field} `) ? `${shown}${sentence.slice(field!.length)}` : sentence]]
      }))
      failure.value = faults.find(({ field }) => field === undefined || fields[field] === undefined)?.sentence ?? null
      return false
    }
    finally {
      sending.value = false
    }
  }

  return { failure, errors, sending, send, clear }
}

/** Told by its name: what makes such errors is fetched by the forms that have schemas, not by every page with a field. */
const isOfSchema = (error: unknown): error is ValidationError => error instanceof Error && error.name === 'ValidationError'

/** What is wrong, and with which field, as far as anybody says. */
function faultsOf(error: unknown): { field: string | undefined, sentence: string }[] {
  if (isOfSchema(error)) return (error.inner.length > 0 ? error.inner : [error]).map(({ path, message }) => ({ field: path, sentence: message }))
  const said = error instanceof FetchError ? error.data as { data?: { field?: string } } | undefined : undefined
  return [{ field: said?.data?.field, sentence: sentenceOf(error) }]
}
