import type { AwayReason } from '~~/core/calls/model'
import { spell } from '~~/core/durations/durations'
import type { Presence, PresenceKind } from '~~/core/presence/presence'
import type { PlainKey } from '~~/words/speaker'
import { t } from '~/composables/language'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { momentWords } from './time-of-day'
import { reasonWords } from './words'

const kinds: Record<PresenceKind, PlainKey> = {
  free: 'presence.free',
  calling: 'presence.calling',
  ringing: 'presence.ringing',
  talking: 'presence.talking',
  holding: 'presence.holding',
  forwarded: 'presence.forwarded',
  doNotDisturb: 'common.doNotDisturb',
  away: 'presence.away',
  engaged: 'presence.out',
  disconnected: 'presence.noTelephone',
}

const shortKinds: Partial<Record<PresenceKind, PlainKey>> = { free: 'presence.freeInline', doNotDisturb: 'presence.notNow', disconnected: 'common.noTelephone' }
const shortReasons: Record<AwayReason, PlainKey> = {
  lunch: 'presence.lunch', break: 'presence.break', meeting: 'presence.meeting', travelling: 'presence.travels', gone: 'presence.gone',
}

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
    if (kind === 'forwarded') return { what: t('presence.toDestination', {
      destination: destination(presence),
    }), time: until ? shownAt(until).format('H:mm') : '' }
    if (kind === 'away') return { what: t(shortReasons[reason!]), time: until ? shownAt(until).format('H:mm') : '' }
    if (kind === 'engaged') return { what: t('presence.outInline'), time: momentWords(until!, live.wall(now)) }
    if (since === null) return { what: t(shortKinds[kind] ?? kinds[kind]), time: '' }
    return { what: `${presence.on === 'mobile' ? t('presence.mobile') : ''}${shortName(presence)}`, time: spell(now - since) }
  }

  /** Why somebody can't be reached now, beside their name: that they talk, not with whom. */
  function brief(presence: Presence, now: number): string {
    return presence.peer ? t(kinds[presence.kind]) : short(presence, now).what
  }

  /** Where calls go, by name where it is one of ours. */
  function destination({ to }: Presence): string {
    return directory.destinationName(to ?? '')
  }

  function shortName(presence: Presence): string {
    const { peer } = presence
    if (!peer) return ''
    const person = directory.person(peer.device)
    return person ? person.last : peer.party?.name ?? t('presence.outsideInline')
  }

  function whole(presence: Presence, now: number): string {
    const { kind, reason, until, since, place } = presence
    const clock = (at: number) => shownAt(at).format('H:mm')
    if (kind === 'away') return t('presence.awayReasonWordsMore', {
      reason: t(reasonWords[reason!]), more: until
        ? t('common.untilAt', { at: clock(until) })
        : since
          ? t('presence.sinceAt', { at: clock(live.wall(since)) })
          : '',
    })
    if (kind === 'engaged') return t('presence.outUntilByTheCalendar', { momentWords: momentWords(until!, live.wall(now)), more: place ? `, ${place}` : '' })
    if (kind === 'forwarded') return t('presence.callsGoTo', {
      destination: destination(presence), more: until ? t('common.untilAt', { at: clock(until) }) : '',
    })
    if (since === null) return t(kinds[kind])
    const peer = peerOf(presence)
    const link = kind === 'ringing' ? t('presence.calledBy') : kind === 'calling' ? '' : t('presence.with')
    const on = presence.on === 'mobile'
      ? t('presence.onTheMobile')
      : presence.on
        ? t('presence.onNumber', { number: live.company?.telephones[presence.on]?.number ?? '' })
        : ''
    return [t(kinds[kind]), on, peer && `${link} ${peer}`.trim(), t('presence.forTime', { time: spell(now - since) })].filter(Boolean).join(' ')
  }

  return { short, brief, whole }
}
