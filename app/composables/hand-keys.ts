import { answerAnywhere, deedOfKey, nameOfKey, nothingToDo } from '~~/core/console/keys'
import { densities } from '~~/core/console/floor'
import { thisCall, whereabouts, whoWaits } from '~~/core/console/summaries'
import { outsideParty } from '~~/core/console/console'
import { t } from '~/composables/language'
import { useContacts } from '~/stores/contacts'
import { useDesk } from '~/stores/desk'
import { useDialogs } from '~/stores/dialogs'
import { useDirectory } from '~/stores/directory'
import { useField } from '~/stores/field'
import { useFloor } from '~/stores/floor'
import { useLikely } from '~/stores/likely'
import { pageKey, usePaging } from '~/stores/paging'
import { usePreferences } from '~/stores/preferences'
import { useQueues } from '~/stores/queues'
import { leader, useSpeedKeys } from '~/stores/speed-keys'
import { useWays } from '~/stores/ways'

/** What the keys of "Who is it for?" do. Keys of the call in hand count only while nothing is typed. */
export function useHandKeys() {
  const desk = useDesk()
  const directory = useDirectory()
  const field = useField()
  const preferences = usePreferences()
  const queues = useQueues()
  const speedKeys = useSpeedKeys()
  const paging = usePaging()
  const floor = useFloor()
  const likely = useLikely()
  const contacts = useContacts()
  const dialogs = useDialogs()
  const ways = useWays()

  const makesAKey = 'Shift+F9'

  /** What is told by one key each, to be heard at any time. */
  const told: Record<string, (situation: Parameters<typeof whoWaits>[0]) => string> = {
    '?': whoWaits,
    ',': whereabouts,
    '.': thisCall,
    ':': () => desk.said.at(-1)?.text ?? t('keys.nothingHasHappenedYet'),
  }

  const shows: Record<string, () => void> = {
    '/': () => {
      const density = densities[(densities.indexOf(preferences.density) + 1) % densities.length]!
      preferences.set({ density })
      desk.say(t('keys.floorDensity', { density }))
    },
    [leader]: speedKeys.begin,
    [pageKey]: paging.toggle,
    '_': writeDown,
    'ArrowRight': () => void likely.take(0),
    'Shift+ArrowRight': () => void likely.take(1),
    'Ctrl+ArrowRight': () => void likely.take(2),
    '=': queues.openNext,
    ';': queues.showOnly,
    '<': floor.nextSite,
    '>': floor.nextDepartment,
    '(': floor.onlyFree,
    ')': floor.everybody,
    '-': () => {
      preferences.set({ panelShown: !preferences.panelShown })
      desk.say(preferences.panelShown ? t('keys.sidePanelShown') : t('keys.sidePanelHidden'))
    },
  }

  /** Whoever calls is written down, or what is known of them changed. */
  function writeDown(): void {
    const call = desk.baton ?? desk.track.open?.call ?? desk.next?.call
    const party = call ? outsideParty(call, desk.device) : null
    if (!contacts.sees || !party?.number) desk.say(t('keys.noNumberIsKnownTo'))
    else dialogs.contact = contacts.pageOf(party.number, party.name)
  }

  function tell(key: string): boolean {
    const console = ways.console()
    const telling = told[key]
    if (telling && console) desk.say(telling({ ...console, now: desk.now, lineName: directory.lineName }), 'urgent')
    shows[key]?.()
    return telling !== undefined || shows[key] !== undefined
  }

  function whileSearching(key: string): boolean {
    if (key === makesAKey) {
      void speedKeys.add(speedKeys.named)
      return true
    }
    const way = field.ways.find(candidate => candidate.key === key)
    const acts = /^((Shift|Ctrl)\+)*(Enter|F\d+)$/.test(key)
    if (way) void field.take(way)
    else if (acts && field.isGone) {
      desk.refuse(t('keys.whoeverIsMarkedIsNot'))
      return true
    }
    else if (key !== 'Enter' && acts) {
      desk.refuse(t('keys.doesNothingWithNowNothing', { key, more: field.best ? directory.nameOf(field.best.id) : `“${field.text}”` }))
      return true
    }
    return way !== undefined || key === 'Enter'
  }

  function whileNamingSlot(key: string): boolean {
    if (key === 'Enter') void field.useSlot(null)
    return key === 'Enter'
  }

  function whileNothingIsTyped(key: string): boolean {
    if (tell(key)) return true
    const console = ways.console()
    const stands = console ? deedOfKey(console, key) : undefined
    if (stands === undefined) return false
    const deed = key in nothingToDo ? ways.aimAt(key) : stands
    if (deed === null) desk.say(t(nothingToDo[key] ?? 'keys.nothingToDo'))
    else if (deed !== 'gone') void (key === 'Enter' || key === answerAnywhere ? field.take({ deed }) : ways.perform(deed))
    return true
  }

  /** Does what a key means here; false when it means nothing. */
  function press(event: KeyboardEvent): boolean {
    if (speedKeys.awaits && speedKeys.stroke(event)) return true
    const key = nameOfKey(event)
    if (key === 'ArrowDown' || key === 'ArrowUp') {
      field.move(key === 'ArrowDown' ? 1 : -1)
      return true
    }
    if (field.text === '') return whileNothingIsTyped(key)
    if (key === 'Escape') {
      field.empty()
      return true
    }
    return field.slotMode ? whileNamingSlot(key) : whileSearching(key)
  }

  /** The same for the calls alone, whatever is typed: where the field is not in sight. */
  function pressInHand(event: KeyboardEvent): boolean {
    return whileNothingIsTyped(nameOfKey(event))
  }

  return { press, pressInHand }
}
