import dayjs, { type Dayjs } from 'dayjs'
import { useLive } from '~/stores/live'

/** A period of whole days, as a picker gives it and as routes ask for it. */
export type Period = [Date, Date]

export const asDay = (date: Date) => dayjs(date).format('YYYY-MM-DD')
export const inWords = ([from, to]: Period) => asDay(from) === asDay(to)
  ? dayjs(from).format('D MMMM YYYY')
  : `${dayjs(from).format('D MMMM YYYY')} to ${dayjs(to).format('D MMMM YYYY')}`

/**
 * A period that is chosen; until then the one that `usual` says. Today is what the clock of the house says, as the exchange tells it.
 */
export function usePeriod(usual: (today: Dayjs) => Period) {
  const live = useLive()
  const chosen = shallowRef<Period | null>(null)
  const today = computed(() => asDay(live.state ? new Date(live.wall(live.now())) : new Date()))
  const period = computed<Period>({ get: () => chosen.value ?? usual(dayjs(today.value)), set: now => void (chosen.value = now) })
  /** Periods that are one choice away, in the picker. */
  const shortcuts = computed(() => {
    const last = dayjs(today.value)
    const since = (from: Dayjs) => (): Period => [from.toDate(), last.toDate()]
    return [
      { text: 'Today', value: since(last) },
      { text: 'Yesterday', value: (): Period => [last.subtract(1, 'day').toDate(), last.subtract(1, 'day').toDate()] },
      { text: 'The last 7 days', value: since(last.subtract(6, 'day')) },
      { text: 'The last 28 days', value: since(last.subtract(27, 'day')) },
      { text: 'This month', value: since(last.startOf('month')) },
      { text: 'The last 12 months', value: since(last.subtract(1, 'year').add(1, 'day')) },
    ]
  })
  return { period, shortcuts }
}

/** What a period is compared with: as many days before it, or the same days four weeks or 52 weeks earlier, on the same days of the week. */
export const comparisons = { none: 'No comparison', before: 'The days before', month: 'Four weeks earlier', year: '52 weeks earlier' } as const
export type Comparison = keyof typeof comparisons

export function earlier([from, to]: Period, comparison: Comparison): Period | null {
  const days = dayjs(to).startOf('day').diff(dayjs(from).startOf('day'), 'day') + 1
  const back = { none: 0, before: days, month: 28, year: 364 }[comparison]
  return back === 0 ? null : [dayjs(from).subtract(back, 'day').toDate(), dayjs(to).subtract(back, 'day').toDate()]
}
