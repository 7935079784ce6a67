import { defineStore } from 'pinia'
import type { Call, DeviceId } from '~~/core/calls/model'
import type { Distribution } from '~~/core/company/company'
import { mailboxOf } from '~~/core/calls/names'
import { callsOf, connectionOf, isConversation, partnerOf } from '~~/core/calls/questions'
import { formatNumber } from '~~/core/numbers/dialled'
import { useDesk } from './desk'
import { useDirectory } from './directory'
import { useLive } from './live'

/** One way a call can go from here. `words` continue "Enter …": what it does, said before it is done. */
export interface Route {
  id: 'passOn' | 'ask' | 'parkFor' | 'voicemail' | 'mobile' | 'join' | 'call' | 'everybody' | 'message' | 'pickUp' | 'move' | 'disturb'
  label: string
  words: string
  key: string
  act: () => Promise<boolean>
}

const anHour = 60 * 60_000

/** The keys of the routes, as they stand on their buttons. */
export const routeKeys: Record<Route['id'], string> = {
  passOn: 'Enter', call: 'Enter', ask: 'Shift+Enter', everybody: 'Shift+Enter', parkFor: 'Ctrl+Enter', voicemail: 'F2', message: 'F4', join: 'F8', mobile: 'F9',
  pickUp: 'Shift+F2', move: 'Shift+F4', disturb: 'Shift+F8',
}

/** Where the call in hand, or a new one, can go when somebody or something has been named. */
export const useRoutes = defineStore('routes', () => {
  const desk = useDesk()
  const live = useLive()
  const directory = useDirectory()
  /** Of whom a message is being taken down, or null. */
  const messageFor = ref<{ to: DeviceId, call: Call | null } | null>(null)
  /** A line of text to send along with the next call that is passed on. */
  const note = ref('')

  const route = (id: Route['id'], label: string, words: string, act: Route['act']): Route => ({ id, label, words, key: routeKeys[id], act })

  /** Passes a call on: one in hand by transfer, one that nobody here has answered by sending it on. */
  async function pass(call: Call, to: string, distribution?: Distribution): Promise<boolean> {
    const own = desk.device && connectionOf(call, desk.device)
    const service = own && own.state !== 'alerting' ? 'singleStepTransferCall' as const : 'deflectCall' as const
    const from = !own && service === 'deflectCall' ? elsewhere(call) : undefined
    const done = await desk.ask({ service, call: call.id, to, ...(from && { from }), ...(note.value && { note: note.value }), ...(distribution && { distribution }) })
    if (done) note.value = ''
    return done
  }

  /** The colleague's telephone where a call rings or talks that is neither queued nor parked. */
  function elsewhere(call: Call): DeviceId | undefined {
    if (call.parked || call.connections.some(({ state }) => state === 'queued')) return undefined
    return call.connections.find(connection => connection.device !== call.calling && live.state?.devices.has(connection.device))?.device
  }

  function answered(call: Call): boolean {
    const own = desk.device && connectionOf(call, desk.device)
    return Boolean(own && (own.state === 'connected' || own.state === 'held'))
  }

  /** Ours, or waiting for all of us: not what is parked already or talks at somebody else's. */
  function parkable(call: Call): boolean {
    return !call.parked && Boolean(desk.device && (connectionOf(call, desk.device) || call.connections.some(({ state }) => state === 'queued')))
  }

  /** Every way to a person, the likeliest first. */
  function toPerson(id: DeviceId): Route[] {
    if (id === desk.device) return []
    const hasTelephone = Boolean(live.state?.company.telephones[id])
    const name = directory.nameOf(id)
    const person = directory.person(id)
    const { baton, talking } = desk
    const routes: Route[] = []
    if (!hasTelephone) return person?.mobile ? [...toNumber(person.mobile, `${name}, ${formatNumber(person.mobile)}`)] : []
    if (baton) {
      const caller = desk.otherName(baton)
      routes.push(route('passOn', 'Pass on', `passes ${caller} on to ${name}`, () => pass(baton, id)))
      if (answered(baton) && !desk.askedFor) routes.push(route('ask', 'Ask first', `asks ${name} while ${caller} waits`, () => desk.ask({ service: 'consultationCall', call: baton.id, number: id })))
      if (parkable(baton)) routes.push(route('parkFor', 'Park for them', `parks ${caller} for ${name}`, () => desk.ask({ service: 'parkCall', call: baton.id, slot: null, for: id })))
      routes.push(route('voicemail', 'Voicemail', `sends ${caller} to the voicemail of ${name}`, () => pass(baton, mailboxOf(id))))
      if (person?.mobile) routes.push(route('mobile', 'Mobile', `passes ${caller} on to ${formatNumber(person.mobile)}`, () => pass(baton, person.mobile!)))
    }
    else {
      routes.push(route('call', 'Call', `calls ${name}`, () => desk.ask({ service: 'makeCall', number: id })))
      if (person?.mobile) routes.push(route('mobile', 'Mobile', `calls ${formatNumber(person.mobile)}`, () => desk.ask({ service: 'makeCall', number: person.mobile! })))
    }
    if (talking && isConversation(talking) && !desk.carried) routes.push(route('join', 'Ask to join', `rings ${name} to join you`, () => desk.ask({ service: 'singleStepConferenceCall', call: talking.id, to: id })))
    routes.push(...atTheirTelephone(id, name))
    if (!baton && desk.device && live.state?.agents.has(desk.device)) routes.push(onTheirBehalf(id, name))
    routes.push(route('message', 'Message', `takes a message for ${name}`, async () => {
      messageFor.value = { to: id, call: baton ?? talking }
      return true
    }))
    return routes
  }

  /** What can be done with a call that rings or talks at a colleague's telephone. */
  function atTheirTelephone(id: DeviceId, name: string): Route[] {
    const theirs = live.state ? callsOf(live.state, id).filter(call => desk.device && !connectionOf(call, desk.device)) : []
    const rings = theirs.find(call => connectionOf(call, id)?.state === 'alerting')
    const talks = theirs.find(call => partnerOf(call, id) && call.calling !== id)
    const moves = rings ?? talks
    return [
      ...(rings ? [route('pickUp', 'Pick up', `picks up what rings at ${name}`, () => desk.ask({ service: 'directedPickupCall', call: rings.id }))] : []),
      ...(moves
        ? [route('move', 'Carry their call', `carries the call of ${name} elsewhere`, async () => {
            desk.carry(moves.id)
            return true
          })]
        : []),
    ]
  }

  /** Do not disturb for a colleague: an hour, or no longer. */
  function onTheirBehalf(id: DeviceId, name: string): Route {
    const on = !live.state!.devices.get(id)?.doNotDisturb
    return route('disturb', on ? 'Do not disturb, 1 h' : 'Disturb again', on ? `sets do not disturb for ${name} for an hour` : `ends do not disturb for ${name}`,
      () => desk.ask({ service: 'setDoNotDisturb', of: id, on, until: on ? live.wall(live.now() + anHour) : null }))
  }

  /** Every way to a group or queue. */
  function toGroup(id: DeviceId): Route[] {
    const group = directory.group(id)!
    const { baton } = desk
    const queue = group.distribution === 'queue'
    const ringing = group.members.some(member => live.state && callsOf(live.state, member).some(call => connectionOf(call, member)?.state === 'alerting'))
    const pickUp = ringing ? [route('pickUp', 'Pick up', `picks up what has rung longest in ${group.name}`, () => desk.ask({ service: 'groupPickupCall', group: id }))] : []
    if (!baton) return [route('call', 'Call', `calls ${group.name}`, () => desk.ask({ service: 'makeCall', number: group.number })), ...pickUp]
    const caller = desk.otherName(baton)
    if (queue) return [route('passOn', 'Pass on', `lets ${caller} wait in the ${group.name}`, () => pass(baton, id))]
    return [
      route('passOn', 'Longest free', `passes ${caller} on to whoever in ${group.name} has been free longest`, () => pass(baton, id, 'longestFree')),
      route('everybody', 'All at once', `rings everybody free in ${group.name} for ${caller}`, () => pass(baton, id, 'all')),
    ]
  }

  /** Every way to a number outside, or to a short number that was typed. */
  function toNumber(number: string, shown: string): Route[] {
    const { baton } = desk
    if (!baton) return [route('call', 'Call', `calls ${shown}`, () => desk.ask({ service: 'makeCall', number, ...(account.value && { account: account.value }) }))]
    const caller = desk.otherName(baton)
    const routes = [route('passOn', 'Pass on', `passes ${caller} on to ${shown}`, () => pass(baton, number))]
    if (answered(baton) && !desk.askedFor) routes.push(route('ask', 'Ask first', `calls ${shown} while ${caller} waits`, () => desk.ask({ service: 'consultationCall', call: baton.id, number })))
    return routes
  }

  /** Account or cost code for the next call outside. */
  const account = ref('')

  function to(id: DeviceId): Route[] {
    return directory.group(id) ? toGroup(id) : toPerson(id)
  }

  return { messageFor, note, account, to, toNumber, pass }
})
