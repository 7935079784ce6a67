/**
 * A time of the day as people write it ("16:30", "9") by the clock of the house, after `now` (both milliseconds since 1970): one that is over today is
 * tomorrow's.
 * @returns null for nothing written, undefined for what can't be read
 */
export function timeOfDay(text: string, now: number): number | null | undefined {
  if (text.trim() === '') return null
  const [, hours, minutes = '0'] = /^\s*(\d{1,2})(?:[:.](\d{2}))?\s*$/.exec(text) ?? []
  if (hours === undefined || Number(hours) > 23 || Number(minutes) > 59) return undefined
  const then = shownAt(now).hour(Number(hours)).minute(Number(minutes)).second(0).millisecond(0)
  const today = instantShown(then)
  return today > now ? today : instantShown(then.add(1, 'day'))
}

/** A moment as people say it from another one: the hour, with the day when it is not that of `now`, or the date when it is far off. */
export function momentWords(at: number, now: number): string {
  const [moment, today] = [shownAt(at), shownAt(now)]
  if (moment.isSame(today, 'day')) return moment.format('H:mm')
  return moment.format(Math.abs(moment.diff(today, 'day')) < 6 ? 'ddd H:mm' : 'D MMM H:mm')
}
