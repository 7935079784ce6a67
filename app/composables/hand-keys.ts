import { deedOfKey, nameOfKey } from '~~/core/console/keys'
import { useField } from '~/stores/field'
import { useWays } from '~/stores/ways'

/** What the keys of "Who is it for?" do. Keys of the call in hand count only while nothing is typed. */
export function useHandKeys() {
  const field = useField()
  const ways = useWays()

  function whileSearching(key: string): boolean {
    const way = field.ways.find(candidate => candidate.key === key)
    if (way) void field.take(way)
    return way !== undefined || key === 'Enter'
  }

  function whileNamingSlot(key: string): boolean {
    if (key === 'Enter') void field.useSlot(null)
    return key === 'Enter'
  }

  function whileNothingIsTyped(key: string): boolean {
    const console = ways.console()
    const deed = console ? deedOfKey(console, key) : undefined
    if (deed) void (key === 'Enter' ? field.take({ deed }) : ways.perform(deed))
    return deed !== undefined
  }

  /** Does what a key means here; false when it means nothing. */
  function press(event: KeyboardEvent): boolean {
    const key = nameOfKey(event)
    if (key === 'ArrowDown' || key === 'ArrowUp') {
      field.move(key === 'ArrowDown' ? 1 : -1)
      return true
    }
    if (field.text === '') return whileNothingIsTyped(key)
    if (key === 'Escape') {
      field.clear()
      return true
    }
    return field.slotMode ? whileNamingSlot(key) : whileSearching(key)
  }

  return { press }
}
