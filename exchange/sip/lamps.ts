import {
  C, type IncomingRequestMessage, type NameAddrHeader, NonInviteClientTransaction, type OutgoingRequestMessage, type URI, type UserAgentCore, UserAgentClient,
} from 'sip.js/lib/core/index.js'
import { randomBytes } from 'node:crypto'
import type { Call, DeviceId, ExchangeState } from '../../core/calls/model'
import { isSlot } from '../../core/calls/names'
import { callsOf, connectionOf, othersOf } from '../../core/calls/questions'
import { lampOf } from './dialled'

/** What lamps and displays of telephones are told (RFC 6665): messages in the mailbox (RFC 3842), and what others are doing (RFC 4235). */

/** Seconds. */
const [shortest, usual, longest] = [60, 600, 3_600]
const mostOfOne = 200

interface Lamp {
  device: DeviceId
  /** Whose state it shows. */
  of: DeviceId
  event: 'message-summary' | 'dialog'
  core: UserAgentCore
  target: URI
  local: URI
  remote: URI
  localTag: string
  remoteTag: string
  callId: string
  cseq: number
  version: number
  until: number
  shown: string
}

/** The dialogs of a telephone as others may name them, to take a call that rings there. */
export interface KnownDialog { call: string, callId: string, localTag: string, remoteTag: string }

export class Lamps {
  private readonly all = new Map<string, Lamp>()

  constructor(
    private readonly state: () => ExchangeState,
    private readonly asks: { unheard: (device: DeviceId) => number, dialogs: (device: DeviceId) => KnownDialog[], host: string },
  ) {}

  /** Takes a SUBSCRIBE of a telephone, new or again. */
  subscribe(core: UserAgentCore, device: DeviceId, message: IncomingRequestMessage): void {
    const known = message.toTag ? this.all.get(keyOf(message.callId, message.toTag)) : undefined
    const event = message.getHeader('event')?.split(';')[0]?.trim().toLowerCase()
    if (message.toTag && known?.device !== device) return void core.replyStateless(message, { statusCode: 481 })
    if (event !== 'message-summary' && event !== 'dialog')
      return void core.replyStateless(message, { statusCode: 489, extraHeaders: ['Allow-Events: dialog, message-summary'] })
    const number = message.ruri?.user ?? ''
    const of = known?.of ?? (event === 'dialog' ? lampOf(this.state(), number) : device)
    const target = message.hasHeader('contact') ? (message.parseHeader('contact') as NameAddrHeader).uri : undefined
    if (!of) return void core.replyStateless(message, { statusCode: 404 })
    if (!known && (!target || [...this.all.values()].filter(lamp => lamp.device === device).length >= mostOfOne)) {
      return void core.replyStateless(message, { statusCode: target ? 503 : 400 })
    }
    const wanted = Number(/^\s*(\d{1,9})\s*$/.exec(message.getHeader('expires') ?? '')?.[1] ?? usual)
    const lasts = wanted === 0 ? 0 : Math.min(longest, Math.max(shortest, wanted))
    const localTag = known?.localTag ?? randomBytes(8).toString('hex')
    core.replyStateless(message, {
      statusCode: 200, toTag: localTag, extraHeaders: [`Expires: ${lasts}`, `Contact: ${core.configuration.contact.toString()}`],
    })
    const lamp: Lamp = known ?? {
      device, of, event, core, target: target!, local: message.to.uri, remote: message.from.uri, localTag, remoteTag: message.fromTag, callId: message.callId,
      cseq: 1, version: 0, until: 0, shown: '',
    }
    if (known && target) known.target = target
    lamp.until = Date.now() + lasts * 1_000
    if (lasts === 0) this.all.delete(keyOf(lamp.callId, lamp.localTag))
    else this.all.set(keyOf(lamp.callId, lamp.localTag), lamp)
    this.notify(lamp, lasts === 0 ? 'terminated;reason=timeout' : `active;expires=${lasts}`, this.bodyOf(lamp))
  }

  /** Something has changed at these telephones or slots, or in their mailboxes. */
  changed(devices: ReadonlySet<DeviceId>): void {
    for (const lamp of this.all.values()) if (devices.has(lamp.of)) this.show(lamp)
  }

  /** Of a telephone whose account has gone. */
  forget(device: DeviceId): void {
    for (const [key, lamp] of this.all) if (lamp.device === device) this.all.delete(key)
  }

  expire(): void {
    for (const [key, { until }] of this.all) if (until < Date.now()) this.all.delete(key)
  }

  private show(lamp: Lamp): void {
    const body = this.bodyOf(lamp)
    if (body !== lamp.shown) this.notify(lamp, `active;expires=${Math.max(1, Math.round((lamp.until - Date.now()) / 1_000))}`, body)
  }

  private bodyOf({ event, of, device }: Lamp): string {
    if (event === 'message-summary') {
      const unheard = this.asks.unheard(device)
      return `Messages-Waiting: ${unheard > 0 ? 'yes' : 'no'}\r\nVoice-Message: ${unheard}/0\r\n`
    }
    const known = this.asks.dialogs(of)
    return callsOf(this.state(), of).map(call => dialogOf(call, of, known.find(dialog => dialog.call === call.id))).join('')
  }

  private notify(lamp: Lamp, subscription: string, body: string): void {
    lamp.shown = body
    const { core, target, local, remote, event, of } = lamp
    const isDialog = event === 'dialog'
    const number = local.user ?? of
    const content = isDialog
      ? `<?xml version="1.0"?>\r\n<dialog-info xmlns="urn:ietf:params:xml:ns:dialog-info" version="${lamp.version++}" state="full" `
      + `entity="sip:${escaped(number)}@${this.asks.host}">\r\n${body}</dialog-info>\r\n`
      : body
    const message: OutgoingRequestMessage = core.makeOutgoingRequestMessage(
      C.NOTIFY, target, local, remote,
      { callId: lamp.callId, cseq: lamp.cseq++, fromTag: lamp.localTag, toTag: lamp.remoteTag, fromDisplayName: '' },
      [`Event: ${event}`, `Subscription-State: ${subscription}`, `Contact: ${core.configuration.contact.toString()}`],
      {
        contentDisposition: 'render', content,
        contentType: isDialog ? 'application/dialog-info+xml' : 'application/simple-message-summary',
      },
    )
    new UserAgentClient(NonInviteClientTransaction, core, message, {
      // A telephone that does not know of it any more is told nothing more.
      onReject: ({ message: { statusCode } }) => {
        if (statusCode === 481 || statusCode === 408 || statusCode === 489) this.all.delete(keyOf(lamp.callId, lamp.localTag))
      },
    })
  }
}

const keyOf = (callId: string, tag: string) => `${callId} ${tag}`

const escaped = (text: string) => text.replace(/[<>&"']/g, character => `&#${character.charCodeAt(0)};`)

/** One call of somebody else as RFC 4235 tells it: never who is at its other end. */
function dialogOf(call: Call, of: DeviceId, known: KnownDialog | undefined): string {
  const own = connectionOf(call, of)!
  const isAnswered = isSlot(of) || (own.state !== 'alerting' && othersOf(call, of).some(({ state }) => state === 'connected' || state === 'held'))
  const tags = known ? ` call-id="${escaped(known.callId)}" local-tag="${escaped(known.remoteTag)}" remote-tag="${escaped(known.localTag)}"` : ''
  const direction = call.calling === of ? 'initiator' : 'recipient'
  const state = isAnswered ? 'confirmed' : own.state === 'alerting' ? 'early' : 'proceeding'
  return `<dialog id="${escaped(call.id)}"${tags} direction="${direction}"><state>${state}</state></dialog>\r\n`
}
