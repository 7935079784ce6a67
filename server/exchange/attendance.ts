import { randomUUID } from 'node:crypto'
import type { DeviceId, ExchangeState, NumberedEvent } from '~~/core/calls/model'
import type { ExchangeLink } from './link'

/** After a start, consoles have this long (milliseconds) to come back before their operators count as gone. */
const settling = 15_000

/**
 * Tells the exchange which operators have a console open, so that no caller waits for somebody who has gone.
 * Each server speaks for its own browsers; one that hears another say "gone" of an operator it serves says otherwise.
 */
export class Attendance {
  private readonly open = new Map<DeviceId, number>()
  private readonly begun: NodeJS.Timeout

  constructor(private readonly picture: { readonly state: ExchangeState | null }, private readonly link: () => ExchangeLink | null) {
    this.begun = setTimeout(() => this.checkForgotten(), settling)
  }

  close(): void {
    clearTimeout(this.begun)
  }

  arrived(device: DeviceId | null): void {
    if (!device) return
    const count = (this.open.get(device) ?? 0) + 1
    this.open.set(device, count)
    if (count === 1) this.say(device, true)
  }

  left(device: DeviceId | null): void {
    if (!device || !this.open.has(device)) return
    const count = this.open.get(device)! - 1
    if (count > 0) {
      this.open.set(device, count)
      return
    }
    this.open.delete(device)
    this.say(device, false)
  }

  /** An exchange that has begun anew, or was away, knows nobody. */
  exchangeUp(): void {
    for (const device of this.open.keys()) this.say(device, true)
  }

  event(event: NumberedEvent): void {
    if (event.type === 'agentStateChanged' && !event.attended && this.open.has(event.device)) this.say(event.device, true)
  }

  private checkForgotten(): void {
    for (const [device, { attended }] of Object.entries(this.picture.state?.agents ?? {})) {
      if (attended && !this.open.has(device)) this.say(device, false)
    }
  }

  private say(device: DeviceId, attended: boolean): void {
    if (!this.picture.state?.agents[device]) return
    // While the exchange is away nothing can be said; it is told when it comes back.
    this.link()?.request(`attendance:${randomUUID()}`, { service: 'setAgentState', device, attended }).catch(() => {})
  }
}
