import { ref } from 'vue'
import { FetchError } from 'ofetch'
import { type Fault, faultsOf as foundBySchema } from '~~/core/schema/faults'
import { say } from './language'
import { sentenceOf } from './failure'

/**
 * Sending what a form holds: what is wrong with a field is told at the field, whether the form or the server found it; everything else below.
 * @param names what fields are called that can't tell it themselves
 */
export function useForm(names: Record<string, string> = {}) {
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
      const isShown = ({ field }: Fault) => field !== undefined && fields[field] !== undefined
      errors.value = Object.fromEntries(faults.filter(isShown).map(fault => [fault.field!, said(fault, fields)]))
      const other = faults.find(fault => !isShown(fault))
      failure.value = other ? said(other, names) : null
      return false
    }
    finally {
      sending.value = false
    }
  }

  return { failure, errors, sending, send, clear }
}

/** What is wrong, and with which field, as far as anybody says. */
function faultsOf(error: unknown): Fault[] {
  const found = foundBySchema(error)
  if (found.length > 0) return found
  const answer = error instanceof FetchError ? error.data as { data?: { field?: string } } | undefined : undefined
  return [{ field: answer?.data?.field, what: sentenceOf(error) }]
}

/** With the name that stands over a field, in the place of the one that it has by itself. */
function said({ field, what }: Fault, names: Record<string, string>): string {
  const name = field === undefined ? undefined : names[field]
  if (name === undefined) return say(what)
  if (typeof what === 'string') return what.startsWith(`${field} `) ? `${name}${what.slice(field!.length)}` : what
  return say(what.with?.field === field ? { ...what, with: { ...what.with, field: name } } : what)
}
