import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { CallId, DeviceId } from '~~/core/calls/model'

/** The keyboard belongs to the field again; where there is none, to the page: never to nothing. */
export function focusField(): void {
  const field = document.getElementById('who')
  if (field) return field.focus()
  if (document.activeElement === document.body || !document.activeElement?.isConnected) document.querySelector<HTMLElement>('main')?.focus()
}

/** The dialogs that open over the console, one at a time; each gives the focus back when it closes. */
export const useDialogs = defineStore('dialogs', () => {
  /** The call whose story is told. */
  const story = ref<CallId | null>(null)
  /** Whether digits are being sent on the call in hand. */
  const digits = ref(false)
  /** The number that is about to be blocked. */
  const blocking = ref<string | null>(null)
  /** For whom a message is taken down (null: still to be said), and on which call. */
  const message = ref<{ to: DeviceId | null, call: CallId | null } | null>(null)

  /** The line or queue that is about to be closed. */
  const closing = ref<string | null>(null)

  /** The telephone whose calls are about to be sent on. */
  const forwarding = ref<DeviceId | null>(null)

  /** Who is about not to be disturbed. */
  const quiet = ref<DeviceId | null>(null)

  /** The contact that is changed; or whoever is about to be written down, as far as they are known. */
  const contact = ref<{ id: string, name?: undefined, number?: undefined } | { id: null, name: string, number: string | null } | null>(null)

  /** Who is about to be promised a call-back, as far as they are known, and on which line they called. */
  const callBack = ref<{ number: string, name: string, line: string | null } | null>(null)

  /** Whose calendar, or which duty's roster, is looked after. */
  const calendar = ref<{ of: string, name: string } | null>(null)

  /** One is open, or about to be: no key means the calls that lie below it. */
  const isOpen = computed(() => digits.value
    || [calendar, story, blocking, message, closing, forwarding, quiet, contact, callBack].some(({ value }) => value !== null))

  return { isOpen, calendar, story, digits, blocking, message, closing, forwarding, quiet, contact, callBack }
})

/** A choice that is closed keeps Escape for itself: whether the dialog around it is what is meant. */
export function closesDialog({ target }: KeyboardEvent): boolean {
  const box = target as HTMLElement
  return box.getAttribute('role') === 'combobox' && box.getAttribute('aria-expanded') !== 'true'
}
