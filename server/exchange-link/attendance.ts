import type { DeviceId } from '~~/core/calls/model'

/** Whose consoles are open at this server: said to the exchange with every beat of the link, and counted there only as long as it is said. */
export class Attendance {
  private readonly open = new Map<DeviceId, number>()

  /** @param say is told of everybody who is present whenever that changes */
  constructor(private readonly say: (devices: DeviceId[]) => void) {}

  arrived(device: DeviceId | null): void {
    if (!device) return
    this.open.set(device, (this.open.get(device) ?? 0) + 1)
    this.tell()
  }

  left(device: DeviceId | null): void {
    const count = device === null ? undefined : this.open.get(device)
    if (device === null || count === undefined) return
    if (count > 1) this.open.set(device, count - 1)
    else this.open.delete(device)
    this.tell()
  }

  /** Says it again: who is an operator may have changed. */
  tell(): void {
    this.say([...this.open.keys()])
  }
}
