import type { Call, CallId } from '~~/core/calls/model'
import { useRoutes } from '~/stores/routes'

const story = ref<CallId | null>(null)
const digits = ref(false)
const blocking = ref<string | null>(null)

/** The keyboard belongs to the field again. */
export function focusField(): void {
  document.getElementById('who')?.focus()
}

/** The sheets that open over the console, one at a time; each gives the focus back when it closes. */
export function usePanels() {
  const routes = useRoutes()
  return {
    /** The call whose story is told. */
    story,
    /** Whether digits are being sent on the call in hand. */
    digits,
    /** The number that is about to be blocked. */
    blocking,
    openStory: (call: CallId) => { story.value = call },
    openDigits: () => { digits.value = true },
    block: (number: string) => { blocking.value = number },
    takeMessage: (call: Call | null) => { routes.messageFor = { to: '', call } },
  }
}
