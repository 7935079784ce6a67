import { IncomingRequestMessage, type IncomingResponseMessage, Levels, LoggerFactory } from 'sip.js/lib/core/index.js'
import type { TelephoneAccount } from '../../shared/telephone-accounts'
import type { Switch } from '../switch'
import type { Carrier } from './carrier'
import { SoundDoor } from './sound-door'
import { Telephones } from './telephones'
import { Trunks } from './trunks'
import { type Peer, Wire, type WireOptions } from './wire'

/**
 * SIP (RFC 3261) as one of those who hear what happens at the exchange and act: what is done at a telephone of the network becomes the services that a console
 * asks for, a carrier does what the network outside does, and what happens is told to them. No rule about calls stands here.
 */

export interface GateOptions extends WireOptions {
  /** The doors of the sound process, and its secret. */
  soundPort: number
  token: string
  carriers?: readonly Carrier[]
  log: (text: string) => void
}

export class Gate {
  private readonly wire: Wire
  private readonly sound: SoundDoor
  private readonly telephones: Telephones
  private readonly trunks: Trunks

  constructor(exchange: Switch, private readonly options: GateOptions) {
    const loggerFactory = new LoggerFactory()
    loggerFactory.builtinEnabled = false
    loggerFactory.level = Levels.warn
    loggerFactory.connector = (level, _category, _label, text) => level === 'error' && options.log(`sip: ${String(text)}`)
    this.wire = new Wire(options, loggerFactory.getLogger('wire'), {
      hear: (message, peer) => this.hear(message, peer),
      lose: peer => this.telephones.lose(peer),
      trusts: peer => this.trunks.at(peer) !== undefined,
    })
    this.sound = new SoundDoor(options.soundPort, options.token, (session, word) => {
      void (this.telephones.calls.heard(session, word) || this.trunks.calls.heard(session, word))
    })
    const ground = { wire: this.wire, sound: this.sound, address: options.address, loggerFactory, log: options.log }
    this.telephones = new Telephones(exchange, ground)
    this.trunks = new Trunks(exchange, ground, options.carriers ?? [])
  }

  /** @throws when the address can't be listened on */
  async open(): Promise<void> {
    await this.wire.open()
    this.telephones.open()
    await this.trunks.open()
  }

  get port(): number {
    return this.wire.port
  }

  /** Those that may register from now on. Whoever is not among them any more is let go at once. */
  know(accounts: readonly TelephoneAccount[]): void {
    this.telephones.know(accounts)
  }

  close(): void {
    this.sound.close()
    this.trunks.close()
    this.telephones.close()
    this.wire.close()
  }

  private hear(message: IncomingRequestMessage | IncomingResponseMessage, peer: Peer): void {
    try {
      if (message instanceof IncomingRequestMessage) {
        const carrier = this.trunks.at(peer)
        if (carrier) this.trunks.asked(message, peer, carrier)
        else this.telephones.asked(message, peer)
      }
      else if (!this.trunks.answered(message)) this.telephones.answered(message, peer)
    }
    catch (error) {
      this.options.log(`sip: ${(error as Error).message}`)
    }
  }
}
