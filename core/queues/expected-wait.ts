/**
 * About how long somebody waits who is at a place in a queue, in milliseconds; null when nothing is known yet.
 * While all who serve are on calls that last `handling` on average, one of `serving` ends every `handling / serving` (departures from a busy system of c
 * servers: D. Gross and others, Fundamentals of Queueing Theory, 4th ed. 2008, 2.3), and so many have to end as stand before and at that place.
 * @param place 1 is next
 * @param handling average length of a call, in milliseconds; undefined before the first one has ended
 * @param serving members who serve at present, on a call or not
 */
export function expectedWait(place: number, handling: number | undefined, serving: number): number | null {
  return handling === undefined || serving === 0 ? null : Math.round(place * handling / serving)
}

const minute = 60_000
const ordinals = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth']

/** What a caller hears of their place: "You are second. About 3 minutes." Ten minutes and more are said in fives: nobody knows better. */
export function tellPlace({ place, wait }: { place: number, wait: number | null }): string {
  const where = `You are ${ordinals[place - 1] ?? `number ${place}`}.`
  if (wait === null) return where
  const minutes = wait < 10 * minute ? Math.round(wait / minute) : Math.round(wait / minute / 5) * 5
  return `${where} ${minutes < 1 ? 'Less than a minute.' : `About ${minutes} minute${minutes === 1 ? '' : 's'}.`}`
}
