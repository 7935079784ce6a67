/** What the screen says of itself, for who listens to it: one after the other, what matters most first, nothing lost, nothing twice, nothing stale. */

/** How much is said by itself: only what can't wait; also what happens to calls; also what one does oneself. */
export const loudnesses = ['urgent', 'calls', 'everything'] as const
export type Loudness = typeof loudnesses[number]

/** `urgent`: a caller is back, has gone, or waits too long; `calls`: other news of calls; `own`: what the operator has just done. */
export type Rank = 'urgent' | 'calls' | 'own'

/** `about`: the call that it tells of, or null. */
export interface Announcement { text: string, rank: Rank, about: string | null }

const order: Rank[] = ['urgent', 'own', 'calls']
const said: Record<Loudness, readonly Rank[]> = { urgent: ['urgent'], calls: ['urgent', 'calls'], everything: order }

/** Speech at its fastest: a pause, and so many milliseconds a letter. Longer than this none holds up the others. */
const pause = 250
const perLetter = 30
const longest = 2_500

export class Announcements {
  private waiting: Announcement[] = []
  private freeAt = -Infinity

  constructor(private readonly loudness: () => Loudness) {}

  /**
   * Puts something in its place: behind what matters as much, before what matters less. The same words that still wait are not said twice, and what has
   * not been said yet of a call gives way to what became of it since.
   */
  put(announcement: Announcement): void {
    if (!said[this.loudness()].includes(announcement.rank)) return
    const stale = ({ text, about }: Announcement) => text === announcement.text || (about !== null && about === announcement.about)
    this.waiting = [...this.waiting.filter(waiting => !stale(waiting)), announcement].sort((a, b) => order.indexOf(a.rank) - order.indexOf(b.rank))
  }

  /** What is to be said now, or null: nothing, or the one before is still being said. */
  next(now: number): Announcement | null {
    if (now < this.freeAt) return null
    const [first, ...rest] = this.waiting
    if (!first) return null
    this.waiting = rest
    this.freeAt = now + Math.min(longest, pause + first.text.length * perLetter)
    return first
  }

  /** Milliseconds until something can be said; null when nothing waits. */
  due(now: number): number | null {
    return this.waiting.length > 0 ? Math.max(0, this.freeAt - now) : null
  }
}
