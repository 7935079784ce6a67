import type { Server } from 'node:http'
import { expect } from 'vitest'
import type { CallId, DeviceId, Request } from '../core/calls/model'
import { callsOf, connectionState } from '../core/calls/questions'
import { smallHouse } from '../core/calls/small-house'
import { quietState } from '../core/calls/snapshot'
import { SteadyClock } from '../exchange/clock'
import { Gate, type GateOptions } from '../exchange/sip/gate'
import { Switch } from '../exchange/switch'
import { openDoors } from '../sound/doors'
import { Ears } from '../sound/ears'
import { everyFrame } from '../sound/clock'
import { Mixer } from '../sound/mixer'
import { OwnSounds } from '../sound/own-sounds'
import { Pieces } from '../sound/recorder'
import type { Repertoire } from '../sound/repertoire'
import { Telephones as TelephoneSounds } from '../sound/telephones'
import { ownAddress } from './telephone-set'

const token = 'known to the house'
const silentRepertoire = { playingAt: () => ({ goesOn: null, once: null }) } as unknown as Repertoire

export const until = <T>(read: () => T) => expect.poll(read, { timeout: 8_000, interval: 50 })

/** An exchange and its sound in one process, with SIP on this machine's address: for peers that nobody here wrote. */
export class SipHouse {
  readonly address = ownAddress()
  readonly exchange = new Switch(quietState(smallHouse(), { epoch: 'sip', now: Date.now(), attended: [] }), new SteadyClock(Date.now()))
  private readonly mixer = new Mixer(() => this.exchange.state, silentRepertoire, new Pieces(() => {}))
  private readonly sounds = new TelephoneSounds(this.mixer)
  private doors!: Server
  private soundPort!: number
  private stopTicking?: () => void
  gate!: Gate

  async open(more: Partial<GateOptions> = {}): Promise<void> {
    await this.openSound(0)
    this.stopTicking = everyFrame(() => this.mixer.tick())
    const options = { address: this.address, port: 0, soundPort: this.soundPort, token, log: (text: string) => console.error(text), ...more }
    for (let tried = 0; ; tried++) {
      this.gate = new Gate(this.exchange, options)
      try {
        return await this.gate.open()
      }
      catch (error) {
        // A free port of UDP need not be one of TCP, nor the next one.
        this.gate.close()
        if (tried > 5) throw error
      }
    }
  }

  get where(): string {
    return `${this.address}:${this.gate.port}`
  }

  /** The sound process ends, and begins anew at the same doors; `meanwhile` comes in between. */
  async soundBeginsAnew(meanwhile: () => void): Promise<void> {
    this.doors.closeAllConnections()
    await new Promise(resolve => this.doors.close(resolve))
    this.sounds.close()
    meanwhile()
    await this.openSound(this.soundPort)
  }

  close(): void {
    this.gate?.close()
    this.stopTicking?.()
    this.doors?.closeAllConnections()
    this.doors?.close()
  }

  at(device: DeviceId) {
    return callsOf(this.exchange.state, device)
  }

  stateOf(call: CallId | undefined, device: DeviceId) {
    return connectionState(this.exchange.state, call ?? '', device)
  }

  ask(request: Request) {
    return this.exchange.request(crypto.randomUUID(), request)
  }

  /** Everybody hangs up. */
  async clear(): Promise<void> {
    for (const call of this.exchange.state.calls.values())
      for (const { device } of call.connections) this.ask({ service: 'clearConnection', device, call: call.id })
    await until(() => this.exchange.state.calls.size).toBe(0)
  }

  private async openSound(port: number): Promise<void> {
    const opened = await openDoors(
      new Ears(this.mixer), this.sounds, new Pieces(() => {}), new OwnSounds(), () => ({ exchange: 'up', speech: 'down' }), { port, token },
    )
    this.doors = opened.server
    this.soundPort = opened.port
  }
}
