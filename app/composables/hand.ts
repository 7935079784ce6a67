import { createSharedComposable, type MaybeElementRef, useElementHover, useEventListener, useFocusWithin } from '@vueuse/core'
import type { Ref } from 'vue'

/** Whether the mouse was used last, or the keyboard: a pointer that was left somewhere is no hand. */
const useLastUsed = createSharedComposable(() => {
  const mouse = ref(false)
  useEventListener(document, ['pointermove', 'pointerdown'], () => { mouse.value = true }, { passive: true, capture: true })
  useEventListener(document, 'keydown', () => { mouse.value = false }, { capture: true })
  return mouse
})

/** True while a hand is on an element: the pointer, while the mouse is in use, or the focus. */
export function useHandOn(element: Ref<HTMLElement | null>) {
  const mouse = useLastUsed()
  const pointed = useElementHover(element)
  const { focused } = useFocusWithin(element as MaybeElementRef)
  return computed(() => (pointed.value && mouse.value) || focused.value)
}
