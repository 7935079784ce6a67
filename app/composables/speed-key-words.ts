import type { AwayReason } from '~~/core/calls/model'
import { isOpen } from '~~/core/queues/openings'
import { speakerWords, speakingAt } from '~~/core/calls/paging/pages'
import { spell } from '~~/core/durations/durations'
import { t } from '~/composables/language'
import { formatNumber, readDialled } from '~/composables/numbers'
import type { SpeedKey } from '~~/core/speed-keys/key'
import { awayWords, openedBy, targetOf } from '~~/core/speed-keys/meaning'
import { useDesk } from '~/stores/desk'
import { useDirectory } from '~/stores/directory'
import { useLive } from '~/stores/live'
import { useQueues } from '~/stores/queues'

/** What stands on a speed key: whom it is for, and how it is with them now, in the floor's own language of lit and unlit. */
export interface KeyFace {
  name: string
  state: string
  /** Whoever is behind it can take a call now, or what it stands for holds at present. */
  lit: boolean
  shape: string
}

export function useSpeedKeyWords() {
  const desk = useDesk()
  const directory = useDirectory()
  const live = useLive()
  const queues = useQueues()
  const { short } = usePresenceWords()

  function faceOf(key: SpeedKey): KeyFace {
    const face = faceWithout(key)
    return key.label ? { ...face, name: key.label } : face
  }

  function faceWithout(key: SpeedKey): KeyFace {
    const { kind, of } = key
    const company = live.company!
    const gone = { name: of, state: t('speedKeys.noLongerHere'), lit: false, shape: '✕' }
    if (kind === 'number') {
      const dialled = readDialled(of)
      return { name: dialled.kind === 'outside' ? formatNumber(dialled.e164) : of, state: t('presence.outsideInline'), lit: true, shape: '↗' }
    }
    if (kind === 'status') return statusFace(of)
    if (kind === 'line') return directory.line(of) ? lineFace(of) : gone
    if (kind === 'opening') return openingFace(of) ?? gone
    if (kind === 'night') return nightFace()
    if (kind === 'forward') return forwardFace(of)
    const target = targetOf(company, key)
    if (target === null) return gone
    if (kind === 'group') return groupFace(target)
    if (kind === 'zone') {
      const speaks = speakerWords(t, live.state!, speakingAt(live.state!, company.zones[target]!.speakers))
      return { name: directory.nameOf(target), state: speaks ? t('speedKeys.speaksSpeaks', { speaks }) : t('speedKeys.quiet'), lit: !speaks, shape: '◖' }
    }
    if (kind === 'slot') {
      const call = desk.slots.find(({ slot }) => slot.id === target)?.call
      const waits = call?.parked ? `${directory.nameOf(call.calling, call.party)} ${spell(desk.now - call.parked.at)}` : t('speedKeys.nobody')
      return { name: directory.nameOf(target), state: waits, lit: Boolean(call), shape: '▣' }
    }
    const presence = live.presences.get(target)
    if (!presence) return { name: directory.nameOf(target), state: '', lit: false, shape: '✕' }
    const { what, time } = short(presence, desk.now)
    return { name: directory.nameOf(target), state: presence.lit ? t('speedKeys.free') : `${what} ${time}`.trim(), lit: presence.lit, shape: shapeOf(presence) }
  }

  function groupFace(id: string): KeyFace {
    const name = directory.group(id)?.name ?? ''
    const board = queues.boards.find(known => known.id === id)
    if (board) {
      const state = board.since !== null ? `${board.waiting.length} · ${spell(desk.now - board.since)}` : t('common.freeFree', { free: board.serving.free })
      return { name, state, lit: board.serving.free > 0, shape: '≡' }
    }
    const free = (directory.group(id)?.members ?? []).filter(member => live.presences.get(member)?.lit).length
    return { name, state: t('common.freeFree', { free }), lit: free > 0, shape: '≡' }
  }

  function statusFace(of: string): KeyFace {
    const reason = desk.device ? live.state?.devices.get(desk.device)?.status.reason ?? 'available' : 'available'
    return { name: statusName(of as AwayReason | 'available'), state: reason === of ? t('speedKeys.now') : '', lit: reason === of, shape: '■' }
  }

  function statusName(of: AwayReason | 'available'): string {
    return of === 'available' ? t('speedKeys.available') : t('speedKeys.iAm', { status: t(awayWords[of]) })
  }

  function openingFace(of: string): KeyFace | null {
    const named = openedBy(live.company!, of)
    if (!named) return null
    const open = isOpen(live.state!, of)
    return { name: named.name, state: open ? t('speedKeys.open') : t('speedKeys.closed'), lit: open, shape: '⌂' }
  }

  function forwardFace(of: string): KeyFace {
    const forwarding = desk.device ? live.state?.devices.get(desk.device)?.forwarding ?? {} : {}
    const there = Object.values(forwarding).some(({ to }) => to === of)
    return { name: t('speedKeys.toName', {
      name: directory.destinationName(of),
    }), state: there ? t('speedKeys.yourCallsGoThere') : t('speedKeys.forward'), lit: there, shape: '↷' }
  }

  function nightFace(): KeyFace {
    const lines = Object.keys(live.company!.lines)
    const open = lines.filter(line => isOpen(live.state!, line)).length
    return { name: t('speedKeys.night'), state: open === 0
      ? t('speedKeys.everyLineClosed')
      : t('speedKeys.ofLinesOpen', { open, count: lines.length }), lit: open === 0, shape: '☾' }
  }

  function lineFace(line: string): KeyFace {
    const unserved = desk.device ? live.state?.agents.get(desk.device)?.unserved ?? {} : {}
    const served = !(line in unserved)
    return { name: directory.line(line)!.name, state: served ? t('speedKeys.served') : t('speedKeys.leftToOthers'), lit: served, shape: '≋' }
  }

  return { faceOf, statusName }
}
