import type { Agent, Device, DeviceId, ExchangeState, Group, Settings, ShortNumber } from '../calls/model'
import { mailboxOf, slotId } from '../calls/names'
import { directNumberOf, shortNumbers, type World } from './merrowby'

export const defaultSettings: Settings = {
  ringCycle: 5_000,
  transferRecall: 20_000,
  noAnswer: 30_000,
  queueRecall: 60_000,
  parkRecall: 90_000,
  absence: 30_000,
  holdRecall: 180_000,
  holdLimit: 900_000,
  overflow: 180_000,
  outsideWatch: 300_000,
  outsideLongest: 2 * 60 * 60_000,
  longestMessage: 120_000,
  conferenceSize: 8,
  failedTone: 5_000,
  operators: 'operators',
}

const operatorCapacity = 12
const slots = 10
/** Milliseconds that a caller waits in a staff queue before the operators see to it. */
const longestInQueue = 240_000
const groupTries = 3
const firstSlotNumber = 701

export interface ExchangeOptions {
  /** Names this run of the exchange. */
  epoch: string
  /** Milliseconds since 1970. */
  now: number
  settings?: Partial<Settings>
  /** Operators whose console is open from the beginning. */
  attended?: readonly DeviceId[]
}

/** A company's telephones on a quiet exchange. */
export function exchangeOf(world: World, options: ExchangeOptions): ExchangeState {
  const { operatorsGroup } = world
  const devices: Record<DeviceId, Device> = {}
  const direct = new Set<string>(world.lines.map(line => line.number))
  for (const [index, person] of world.people.entries()) {
    // A number reaches one telephone: of several with the same ending only the first has it.
    const number = directNumberOf(person.extension)
    const own = direct.has(number) ? null : number
    direct.add(number)
    devices[person.extension] = {
      id: person.extension,
      name: `${person.first} ${person.last}`,
      capacity: operatorsGroup.members.includes(person.extension) ? operatorCapacity : 1,
      // A few desks have no telephone plugged in, as everywhere.
      inService: index % 61 !== 60,
      doNotDisturb: false,
      doNotDisturbBy: null,
      doNotDisturbUntil: null,
      pickupGroup: person.department,
      handset: false,
      freeSince: null,
      direct: own,
      status: { reason: null, since: options.now, until: null },
    }
  }
  return {
    epoch: options.epoch,
    seq: 0,
    time: options.now,
    clockOffset: 0,
    serial: 0,
    devices,
    groups: groupsOf(world),
    lines: Object.fromEntries(world.lines.map(({ id, name, number, longestWait }) => [id, { id, name, number, target: operatorsGroup.id, night: mailboxOf(id), overflow: { after: longestWait * 1_000, to: mailboxOf(id) } }])),
    trunks: { east: { id: 'east', channels: 21, kept: 1 }, west: { id: 'west', channels: 21, kept: 1 } },
    slots: Object.fromEntries(Array.from({ length: slots }, (_, index) => [slotId(index + 1), { id: slotId(index + 1), number: String(firstSlotNumber + index) }])),
    agents: Object.fromEntries(operatorsGroup.members.map((member): [DeviceId, Agent] => [member, { attended: options.attended?.includes(member) ?? false, leavesAt: null, unserved: {} }])),
    shortNumbers: Object.fromEntries(shortNumbers.map((short): [string, ShortNumber] => [short.number, short])),
    blocked: {},
    outlived: [],
    calls: {},
    settings: { ...defaultSettings, ...options.settings },
  }
}

/** The operators, the queues, and each department as a group that rings whoever has been free longest. */
function groupsOf(world: World): Record<DeviceId, Group> {
  const toOperators = { after: longestInQueue, to: world.operatorsGroup.id }
  const inDepartment = (id: string) => world.people.filter(person => person.department === id).map(person => person.extension)
  const departments = world.departments.map(({ id, name }, index): Group => ({ id: `group:${id}`, name, number: String(501 + index), members: inDepartment(id), distribution: 'longestFree', tries: groupTries, overflow: toOperators }))
  const queues = world.queues.map(({ id, name, number, department }): Group => ({ id: `queue:${id}`, name, number, members: inDepartment(department), distribution: 'queue', tries: groupTries, overflow: toOperators }))
  return Object.fromEntries([{ ...world.operatorsGroup, distribution: 'queue' as const, tries: groupTries, overflow: toOperators }, ...queues, ...departments].map(group => [group.id, group]))
}
