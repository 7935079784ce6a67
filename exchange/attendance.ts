import { randomUUID } from 'node:crypto'
import type { DeviceId } from '../core/calls/model'
import type { Switch } from './switch'

/**
 * Which operators have a console open: those whom at least one server names. A name is a lease: it holds as long as that server goes on saying it,
 * so that nobody waits for somebody whose console, cable or server has died.
 */
export class Attendance {
  private readonly named = new Map<object, ReadonlySet<DeviceId>>()

  constructor(private readonly exchange: Switch) {}

  /** A server says who is present at it. */
  say(server: object, present: readonly DeviceId[]): void {
    this.named.set(server, new Set(present))
    this.settle()
  }

  /** A server has gone, or has fallen silent. */
  gone(server: object): void {
    if (this.named.delete(server)) this.settle()
  }

  /** Everybody is there, or gone, as it was last said. */
  settle(): void {
    const present = new Set([...this.named.values()].flatMap(devices => [...devices]))
    for (const [device, { attended }] of this.exchange.state.agents.entries()) {
      if (present.has(device) !== attended) this.exchange.request(`attendance:${randomUUID()}`, { service: 'setAgentState', device, attended: !attended })
    }
  }
}
