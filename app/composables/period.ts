import dayjs from 'dayjs'

/** A period of whole days, as a picker gives it and as routes ask for it. */
export type Period = [Date, Date]

export const asDay = (date: Date) => dayjs(date).format('YYYY-MM-DD')
export const inWords = ([from, to]: Period) => asDay(from) === asDay(to)
  ? dayjs(from).format('D MMMM YYYY')
  : `${dayjs(from).format('D MMMM YYYY')} to ${dayjs(to).format('D MMMM YYYY')}`

/** Periods that are one choice away, in the picker. */
export const usualPeriods = [
  { text: 'Today', value: (): Period => [dayjs().toDate(), dayjs().toDate()] },
  { text: 'Yesterday', value: (): Period => [dayjs().subtract(1, 'day').toDate(), dayjs().subtract(1, 'day').toDate()] },
  { text: 'The last 7 days', value: (): Period => [dayjs().subtract(6, 'day').toDate(), dayjs().toDate()] },
  { text: 'The last 28 days', value: (): Period => [dayjs().subtract(27, 'day').toDate(), dayjs().toDate()] },
  { text: 'This month', value: (): Period => [dayjs().startOf('month').toDate(), dayjs().toDate()] },
  { text: 'The last 12 months', value: (): Period => [dayjs().subtract(1, 'year').add(1, 'day').toDate(), dayjs().toDate()] },
]

/** What a period is compared with: as many days before it, or the same days four weeks or 52 weeks earlier, on the same days of the week. */
export const comparisons = { none: 'No comparison', before: 'The days before', month: 'Four weeks earlier', year: '52 weeks earlier' } as const
export type Comparison = keyof typeof comparisons

export function earlier([from, to]: Period, comparison: Comparison): Period | null {
  const days = dayjs(to).startOf('day').diff(dayjs(from).startOf('day'), 'day') + 1
  const back = { none: 0, before: days, month: 28, year: 364 }[comparison]
  return back === 0 ? null : [dayjs(from).subtract(back, 'day').toDate(), dayjs(to).subtract(back, 'day').toDate()]
}
