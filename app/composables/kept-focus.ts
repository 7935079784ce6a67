import { useIntervalFn } from '@vueuse/core'
import { focusField } from '~/stores/dialogs'

const looksEvery = 250

/**
 * The keyboard is never on nothing: when what had it is gone (a dialog, a message, a page of keys), it is the field's, or the page's. Whoever marks a text to
 * copy it, or has a dialog or a menu open, is left in peace.
 */
export function useKeptFocus(): void {
  let nowhere = false
  useIntervalFn(() => {
    const lost = document.hasFocus() && (!document.activeElement || document.activeElement === document.body)
    const open = [...document.querySelectorAll('[aria-modal="true"], .el-popper[aria-hidden="false"]')].some(one => one.getClientRects().length > 0)
    const busy = document.getSelection()?.isCollapsed === false || open
    if (lost && nowhere && !busy) focusField()
    nowhere = lost && !busy
  }, looksEvery)
}
