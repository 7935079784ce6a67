import { type Ref, watch } from 'vue'
import { useDesk } from '~/stores/desk'
import { useField } from '~/stores/field'
import { useLive } from '~/stores/live'

/** Keys that lead nowhere by themselves: they never wait. */
const silent = new Set(['Tab', 'Shift', 'Control', 'Alt', 'AltGraph', 'Meta', 'CapsLock', 'Dead', 'Unidentified'])
/** While there is no answer to what is typed yet, what acts or moves the mark waits for it: it would mean those of before. */
const meansSomebody = new Set(['Enter', 'ArrowDown', 'ArrowUp', ...Array.from({ length: 12 }, (_, index) => `F${index + 1}`)])
/** What moves the mark, or leaves: it never waits by itself, and may be held down. */
export const movingKeys = new Set(['ArrowDown', 'ArrowUp', 'Escape'])
/** What a name or a number begins with: it is written at once, for whoever types to see. Other signs are keys of the console where nothing is named. */
const beginsText = /^[\p{L}\p{N}+]$/u
/** Whoever empties the field with Backspace and presses once too often means the field, not a call. */
const eraserRests = 700

/**
 * Keys that are pressed while the exchange is still answering stand in line: each means what stands there when it is its turn, and what is typed behind
 * one of them belongs behind it. So nobody else is meant because an answer was slow. Behind what was refused nothing is done, and Escape ends the line.
 * @param asking whether something is being asked at this moment
 * @param press does what a key means; false when it means nothing
 */
export function useTypeAhead(asking: Readonly<Ref<boolean>>, press: (event: KeyboardEvent) => boolean) {
  const desk = useDesk()
  const field = useField()
  const live = useLive()
  const line: KeyboardEvent[] = []
  /** The key by which what is being asked was begun; the mouse counts as Enter. */
  let begunBy = 'Enter'
  let erased = -Infinity
  /** Whether something has been written since it began to be asked. */
  let hasWritten = false

  function act(event: KeyboardEvent): boolean {
    begunBy = event.key
    const pressed = press(event)
    if (!asking.value) begunBy = 'Enter'
    return pressed
  }

  /**
   * Enter with nothing named, pressed twice, must not answer the next caller as well; after another key it is meant. Other keys are meant each time: what the
   * first has done may be in sight before its answer is there.
   */
  function isSlip(key: string): boolean {
    return key === 'Enter' && (line.length > 0 ? line.at(-1)!.key === key : field.text === '' && begunBy === key)
  }

  function mustWait(key: string): boolean {
    if (line.length > 0) return true
    if (!asking.value) return field.looking && meansSomebody.has(key)
    hasWritten ||= beginsText.test(key)
    return !movingKeys.has(key) && !(hasWritten && key.length === 1)
  }

  /** True when a key is dealt with, and the field is not to have it. */
  function take(event: KeyboardEvent): boolean {
    const { key, ctrlKey, timeStamp } = event
    // Copying and pasting are the browser's.
    if (silent.has(key) || (ctrlKey && key.length === 1)) return false
    if (key === 'Escape') line.length = 0
    if (mustWait(key)) {
      if (!isSlip(key)) line.push(event)
      return true
    }
    if (key === 'Backspace') {
      if (field.text === '' && timeStamp - erased < eraserRests) return false
      if (field.text !== '') erased = timeStamp
    }
    return act(event)
  }

  /** What the browser would have done with a key, had it not waited. */
  function write({ key, timeStamp }: KeyboardEvent): boolean {
    if (key === 'Backspace' && (field.text !== '' || timeStamp - erased < eraserRests)) {
      if (field.text !== '') erased = timeStamp
      field.type([...field.text].slice(0, -1).join(''))
      return true
    }
    if (key.length !== 1 || field.text === '') return false
    field.type(field.text + key)
    return true
  }

  watch([asking, () => field.looking], (_now, [wasAsking]) => {
    if (!asking.value) {
      begunBy = 'Enter'
      hasWritten = false
    }
    if (wasAsking && !asking.value && desk.notice) line.length = 0
    while (line.length > 0 && !asking.value && !(field.looking && meansSomebody.has(line[0]!.key))) {
      const event = line.shift()!
      if (!write(event) && !act(event) && event.key.length === 1) field.type(field.text + event.key)
    }
  }, { flush: 'post' })

  // Where nothing can be asked any more, nothing is done late either.
  watch(() => live.working, () => line.length = 0)

  return take
}
