import dayjs, { type Dayjs } from 'dayjs'
import { t } from '~/composables/language'
import { useLive } from '~/stores/live'

/** A period of whole days, as a picker gives it and as routes ask for it. */
export type Period = [Date, Date]

export const asDay = (date: Date) => dayjs(date).format('YYYY-MM-DD')
export const inWords = ([from, to]: Period) => asDay(from) === asDay(to)
  ? dayjs(from).format('D MMMM YYYY')
  : t('figures.atToAt2', { at: dayjs(from).format('D MMMM YYYY'), at2: dayjs(to).format('D MMMM YYYY') })

/** Today is what the clock of the house says, as the exchange tells it. */
export function useToday() {
  const live = useLive()
  const today = computed(() => shownAt(live.state ? live.wall(live.now()) : Date.now()).format('YYYY-MM-DD'))
  return computed(() => dayjs(today.value))
}

/** A period that is chosen; until then the one that `usual` says. */
export function usePeriod(usual: (today: Dayjs) => Period) {
  const chosen = shallowRef<Period | null>(null)
  const today = useToday()
  return computed<Period>({ get: () => chosen.value ?? usual(today.value), set: now => void (chosen.value = now) })
}

/** What a period is compared with: as many days before it, or those a week, four weeks or 52 weeks earlier, on the same days of the week. */
export const comparisons = {
  none: 'figures.noComparison', before: 'figures.theDaysBefore', week: 'figures.aWeekEarlier', month: 'figures.fourWeeksEarlier',
  year: 'figures.n52WeeksEarlier',
} as const
export type Comparison = keyof typeof comparisons

export function earlier([from, to]: Period, comparison: Comparison): Period | null {
  const days = dayjs(to).startOf('day').diff(dayjs(from).startOf('day'), 'day') + 1
  const back = { none: 0, before: days, week: 7, month: 28, year: 364 }[comparison]
  return back === 0 ? null : [dayjs(from).subtract(back, 'day').toDate(), dayjs(to).subtract(back, 'day').toDate()]
}
