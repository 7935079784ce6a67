/** Bundled with the sources of the earlier commit, which are no part of this tree. */
import { decide } from 'earlier/core/calls/decide'
import { evolve } from 'earlier/core/calls/evolve'
import { nextDeadline } from 'earlier/core/calls/timers'
import { exchangeOf } from 'earlier/core/world/exchange'
import { merrowby } from 'earlier/core/world/merrowby'

export { costs, rate } from './cost'

/** The call model as it was when every change copied all telephones and all calls, and every question looked at all of them. */
export const model = {
  quiet(size) {
    // Names run out beyond some nine thousand people: telephones beyond are copies of others with numbers of their own.
    const world = merrowby(Math.min(size, 8_000))
    const state = exchangeOf(world, { epoch: 'bench', now: Date.UTC(2031, 4, 12, 9), attended: world.operatorsGroup.members })
    const devices = { ...state.devices }
    const first = devices['2110']
    for (let i = 8_000; i < size; i++) devices[String(2_100 + i)] = { ...first, id: String(2_100 + i), direct: null }
    const reservations = { ...state.groups['group:reservations'] }
    return { ...state, devices, groups: { ...state.groups, 'group:reservations': reservations }, trunks: { east: { id: 'east', channels: 5_000, kept: 1 } } }
  },
  decide,
  evolve,
  nextDeadline,
  seq: state => state.seq,
  telephone: index => String(2_100 + index),
  group: 'group:reservations',
}
