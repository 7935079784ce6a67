import { hoursOf, timerOfOpening } from '~~/core/queues/openings'
import { t } from '~/composables/language'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'

/** Whether a line or a queue is open, by whose word or by its hours, and until when. */
export function useOpeningWords() {
  const live = useLive()
  const directory = useDirectory()

  function wordsOf(of: string): { open: boolean, hours: boolean, byHand: boolean, words: string } {
    const { state } = live
    const opening = state?.openings.get(of)
    const hours = Boolean(state && hoursOf(state, of))
    if (!state || !opening) return { open: true, hours, byHand: false, words: t('opening.open') }
    const next = timerOfOpening(state, of)
    const until = next ? t('common.untilAt', { at: timeOf(live.wall(next.at)) }) : ''
    const by = opening.by ? t('opening.byName', { name: directory.nameOf(opening.by) }) : ''
    const to = !opening.open && opening.to ? t('opening.callersGoTo', { name: directory.nameOf(opening.to) }) : ''
    return { open: opening.open, hours, byHand: opening.by !== null, words: `${opening.open ? t('opening.open') : t('opening.closed')}${until}${by}${to}` }
  }

  /** Today the time alone. */
  function timeOf(at: number): string {
    const time = shownAt(at)
    return time.format(time.isSame(shownAt(live.wall(live.now())), 'day') ? 'H:mm' : 'ddd H:mm')
  }

  return { wordsOf }
}
