import { useEventListener } from '@vueuse/core'

/** True where keys belong to what has the focus and not to the console. */
export function ownsKeys(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable], [role="dialog"], [role="menu"], [role="listbox"]') !== null
  )
}

/** Calls back for every printable key that nothing else wants: typing anywhere goes to one place. */
export function useTypingAnywhere(begin: (event: KeyboardEvent) => void): void {
  useEventListener(document, 'keydown', (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.key.length !== 1 || event.key === ' ' || ownsKeys(event.target)) return
    begin(event)
  })
}
