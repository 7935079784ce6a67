import type { AwayReason } from '~~/core/calls/model'
import { spell } from '~~/core/durations/durations'
import type { Presence, PresenceKind } from '~~/core/presence/presence'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { momentWords } from './time-of-day'
import { reasonWords } from './words'

const kinds: Record<PresenceKind, string> = {
  free: 'Free',
  calling: 'Calling',
  ringing: 'Ringing',
  talking: 'Talking',
  holding: 'Holding',
  forwarded: 'Forwarded',
  doNotDisturb: 'Do not disturb',
  away: 'Away',
  engaged: 'Out',
  disconnected: 'No telephone',
}

const shortKinds: Partial<Record<PresenceKind, string>> = { free: 'free', doNotDisturb: 'not now', disconnected: 'no telephone' }
const shortReasons: Record<AwayReason, string> = { lunch: 'lunch', break: 'break', meeting: 'meeting', travelling: 'travels', gone: 'gone' }

/**
 * A shape repeats what lightness says. Calls point to where they go: into the telephone or out of it; filled once both sides talk.
 * Open and round is free, cut is unwilling, empty and pointed is away.
 */
export function shapeOf({ kind, way }: Presence): string {
  switch (kind) {
    case 'free': return '○'
    case 'calling': return '▷'
    case 'ringing': return '◁'
    case 'talking': return way === 'in' ? '◀' : '▶'
    case 'holding': return '◫'
    case 'forwarded': return '↷'
    case 'doNotDisturb': return '⊘'
    case 'away': return '◇'
    case 'engaged': return '◈'
    case 'disconnected': return '✕'
  }
}

/** A presence in words: short for a window of the floor, whole for an answer or a screen reader. */
export function usePresenceWords() {
  const directory = useDirectory()
  const live = useLive()

  function peerOf(presence: Presence): string {
    return presence.peer ? directory.nameOf(presence.peer.device, presence.peer.party) : ''
  }

  /** For a window of the floor: a word or a name, and how long or until when. */
  function short(presence: Presence, now: number): { what: string, time: string } {
    const { kind, since, until, reason } = presence
    if (kind === 'forwarded') return { what: `to ${destination(presence)}`, time: until ? shownAt(until).format('H:mm') : '' }
    if (kind === 'away') return { what: shortReasons[reason!], time: until ? shownAt(until).format('H:mm') : '' }
    if (kind === 'engaged') return { what: 'out', time: momentWords(until!, live.wall(now)) }
    if (since === null) return { what: shortKinds[kind] ?? kinds[kind], time: '' }
    return { what: `${presence.on === 'mobile' ? 'mobile: ' : ''}${shortName(presence)}`, time: spell(now - since) }
  }

  /** Where calls go, by name where it is one of ours. */
  function destination({ to }: Presence): string {
    return directory.destinationName(to ?? '')
  }

  function shortName(presence: Presence): string {
    const { peer } = presence
    if (!peer) return ''
    const person = directory.person(peer.device)
    return person ? person.last : peer.party?.name ?? 'outside'
  }

  function whole(presence: Presence, now: number): string {
    const { kind, reason, until, since, place } = presence
    const clock = (at: number) => shownAt(at).format('H:mm')
    if (kind === 'away') return `Away, ${reasonWords[reason!]}${until ? ` until ${clock(until)}` : since ? ` since ${clock(live.wall(since))}` : ''}`
    if (kind === 'engaged') return `Out until ${momentWords(until!, live.wall(now))} by the calendar${place ? `, ${place}` : ''}`
    if (kind === 'forwarded') return `Calls go to ${destination(presence)}${until ? ` until ${clock(until)}` : ''}`
    if (since === null) return kinds[kind]
    const peer = peerOf(presence)
    const link = kind === 'ringing' ? 'called by' : kind === 'calling' ? '' : 'with'
    const on = presence.on === 'mobile' ? 'on the mobile' : presence.on ? `on ${live.company?.telephones[presence.on]?.number}` : ''
    return [kinds[kind], on, peer && `${link} ${peer}`.trim(), `for ${spell(now - since)}`].filter(Boolean).join(' ')
  }

  return { short, whole }
}
