import { spell } from '../durations/durations'
import type { Speaker } from '../../words/speaker'

/** What the screen says of itself, for who listens to it: one after the other, what matters most first, nothing of use lost, nothing twice, nothing stale. */

/** How much is said by itself: only what can't wait; also what happens to calls; also what one does oneself. */
export const loudnesses = ['urgent', 'calls', 'everything'] as const
export type Loudness = typeof loudnesses[number]

/** How fast the voice is that reads it: letters a second. */
export const voices = { slow: 14, usual: 20, fast: 32 } as const
export type Voice = keyof typeof voices

/**
 * `now`: what must be said with the hand still on the key: whom one has, and how to greet them; `urgent`: a caller is back, has gone; `own`: what the operator
 * has just done; `calls`: other news of calls; `waits`: somebody waits too long.
 */
export type Rank = 'now' | 'urgent' | 'own' | 'calls' | 'waits'

/** Somebody who waits: since when by the exchange's time, and where they arrived; `held`: on hold with the operator. */
export interface Wait { name: string, line: string, since: number, held: boolean }

/** How the way of a call that is no longer with the operator ended: nobody hears of it again, so it is said however late, many together. */
export interface Ending { how: 'gaveUp' | 'taken' | 'leavesMessage', name: string }

/** `about`: the call that it tells of, or null. */
export interface Announcement { text: string, rank: Rank, about: string | null, arrival?: Wait, wait?: Wait, ending?: Ending }

const order: readonly Rank[] = ['now', 'urgent', 'own', 'calls', 'waits']
const said: Record<Loudness, readonly Rank[]> = { urgent: ['now', 'urgent', 'waits'], calls: ['now', 'urgent', 'calls', 'waits'], everything: order }

/** Milliseconds: between two things that are said, and the longest that one holds up the others. */
const pause = 250
const longest = 6_000
/** That somebody waits too long is said no oftener than this; what is to be known of a call's way, and was not said by then, is of no use any more. */
const waitsEvery = 15_000
const tooOld = 20_000
/** So many who have arrived, or whose way has ended alike, are told each by themselves, more of them together. */
const named = 2

interface Waiting { announcement: Announcement, at: number }

export class Announcements {
  private waiting: Waiting[] = []
  private freeAt = -Infinity
  private waitsAt = -Infinity

  constructor(private readonly t: Speaker, private readonly loudness: () => Loudness, private readonly voice: () => Voice = () => 'usual') {}

  /**
   * Puts something in its place: behind what matters as much, before what matters less. The same words that still wait are not said twice, and what has
   * not been said yet of a call gives way to what became of it since; that it waits never hides that it has come, and no news of it what one did with it.
   * @param now the screen's own clock, in milliseconds
   */
  put(announcement: Announcement, now: number): void {
    const { text, about, rank } = announcement
    if (!said[this.loudness()].includes(rank)) return
    const ofTheSame = (other: Announcement) => about !== null && other.about === about
    if (rank === 'waits' && this.waiting.some(({ announcement: other }) => ofTheSame(other) && other.rank !== 'waits')) return
    const isAct = (other: Announcement) => other.rank === 'own' || other.rank === 'now'
    const stale = (other: Announcement) => other.text === text || (ofTheSame(other) && !(rank === 'calls' && isAct(other)))
    this.waiting = [...this.waiting.filter(({ announcement: other }) => !stale(other)), { announcement, at: now }]
      .sort((a, b) => order.indexOf(a.announcement.rank) - order.indexOf(b.announcement.rank))
  }

  /**
   * What is to be said now, or null: nothing, or the one before is still being said.
   * @param exchangeNow by which the waits are told
   */
  next(now: number, exchangeNow: number): Announcement | null {
    if (now < this.freeAt) return null
    this.waiting = this.waiting.filter(({ announcement: { rank, arrival, ending }, at }) => rank !== 'calls' || arrival || ending || now - at < tooOld)
    const [first] = this.waiting
    if (!first || (first.announcement.rank === 'waits' && now - this.waitsAt < waitsEvery)) return null
    const announcement = this.take(first.announcement, exchangeNow)
    if (announcement.rank === 'waits') this.waitsAt = now
    this.freeAt = now + Math.min(longest, pause + announcement.text.length * 1_000 / voices[this.voice()])
    return announcement
  }

  /** The first, with what is told together with it. */
  private take(first: Announcement, now: number): Announcement {
    const together = this.waiting.map(({ announcement }) => announcement).filter(other => isLike(first, other))
    const gathered = together.length > (first.rank === 'waits' ? 1 : named)
    const taken = gathered ? together : [first]
    this.waiting = this.waiting.filter(({ announcement }) => !taken.includes(announcement))
    return gathered ? { text: this.textOf(first, together, now), rank: first.rank, about: null } : first
  }

  private textOf(first: Announcement, together: readonly Announcement[], now: number): string {
    if (first.arrival) return arrivals(together.map(({ arrival }) => arrival!))
    if (first.ending) return this.t(endings[first.ending.how], { names: together.map(({ ending }) => ending!.name).join(', ') })
    return waits(this.t, together.map(({ wait }) => wait!), now)
  }

  /** Milliseconds until something can be said; null when nothing waits. */
  due(now: number): number | null {
    const [first] = this.waiting
    if (!first) return null
    const quiet = first.announcement.rank === 'waits' ? this.waitsAt + waitsEvery : -Infinity
    return Math.max(0, this.freeAt - now, quiet - now)
  }
}

const endings = { gaveUp: 'tidings.gaveUpTogether', taken: 'tidings.takenTogether', leavesMessage: 'tidings.leaveMessagesTogether' } as const

/** Whether both are told in one sentence when there are many. */
function isLike(first: Announcement, other: Announcement): boolean {
  if (first.arrival) return other.arrival !== undefined
  if (first.ending) return other.ending?.how === first.ending.how
  return first.rank === 'waits' ? other.rank === 'waits' : other === first
}

/** "General line: Olive Quill, Piet Lanthorn. Freight line: Hallow Dairy". */
function arrivals(all: readonly Wait[]): string {
  const lines = [...new Set(all.map(({ line }) => line))]
  return lines.map(line => `${line}: ${all.filter(one => one.line === line).map(({ name }) => name).join(', ')}`).join('. ')
}

/** Those on hold by name, as they are forgotten most easily; of the others how many, and the longest. */
function waits(t: Speaker, all: readonly Wait[], now: number): string {
  const held = all.filter(one => one.held).map(({ name, since }) => t('tidings.onHoldFor', { name, time: spell(now - since) }))
  const others = all.filter(one => !one.held)
  const since = Math.min(...others.map(other => other.since))
  const more = others.length === 0 ? [] : [t('tidings.waitsToBeAnsweredThe', { count: others.length, time: spell(now - since) })]
  return [...held, ...more].join('. ')
}
