import type { Device, DeviceId, ExchangeState, Settings } from '../calls/model'
import { directPrefix, type World } from './merrowby'

export const defaultSettings: Settings = {
  ringCycle: 5_000,
  transferRecall: 20_000,
  noAnswer: 30_000,
  failedTone: 5_000,
  directPrefix,
  operators: 'operators',
}

const operatorCapacity = 12

/**
 * A company's telephones on a quiet exchange.
 * @param options.epoch names this run of the exchange; @param options.now milliseconds since 1970
 */
export function exchangeOf(world: World, options: { epoch: string, now: number, settings?: Partial<Settings> }): ExchangeState {
  const { operatorsGroup } = world
  const devices: Record<DeviceId, Device> = {}
  for (const [index, person] of world.people.entries()) {
    devices[person.extension] = {
      id: person.extension,
      name: `${person.first} ${person.last}`,
      capacity: operatorsGroup.members.includes(person.extension) ? operatorCapacity : 1,
      // A few desks have no telephone plugged in, as everywhere.
      inService: index % 61 !== 60,
      doNotDisturb: false,
      status: { reason: null, since: options.now, until: null },
    }
  }
  return {
    epoch: options.epoch,
    seq: 0,
    time: options.now,
    serial: 0,
    devices,
    groups: { [operatorsGroup.id]: operatorsGroup },
    lines: Object.fromEntries(world.lines.map(line => [line.id, { id: line.id, number: line.number, target: operatorsGroup.id }])),
    trunks: { east: { id: 'east', channels: 20 }, west: { id: 'west', channels: 20 } },
    calls: {},
    settings: { ...defaultSettings, ...options.settings },
  }
}
